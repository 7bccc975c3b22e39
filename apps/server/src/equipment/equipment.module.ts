import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { Equipment } from '../database/models.js';
import { EquipmentController } from './equipment.controller.js';

@Module({ imports: [SequelizeModule.forFeature([Equipment])], controllers: [EquipmentController] })
export class EquipmentModule {}
