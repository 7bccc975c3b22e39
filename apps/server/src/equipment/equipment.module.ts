import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { ControlsModule } from '../controls/controls.module.js';
import { Equipment, Site } from '../database/models.js';
import { EquipmentController } from './equipment.controller.js';
import { EquipmentService } from './equipment.service.js';

@Module({
  imports: [SequelizeModule.forFeature([Equipment, Site]), ControlsModule],
  controllers: [EquipmentController],
  providers: [EquipmentService],
})
export class EquipmentModule {}
