import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { Control, ControlPlan, FittedDevice, GaugeRow, Job, JobResult } from '../database/models.js';
import { ControlsController } from './controls.controller.js';
import { ControlsService } from './controls.service.js';

@Module({
  imports: [SequelizeModule.forFeature([Control, ControlPlan, FittedDevice, GaugeRow, Job, JobResult])],
  controllers: [ControlsController],
  providers: [ControlsService],
  exports: [ControlsService],
})
export class ControlsModule {}
