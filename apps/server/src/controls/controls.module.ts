import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import {
  Control,
  ControlLink,
  ControlPlan,
  FittedDevice,
  GaugeRow,
  Job,
  JobResult,
} from '../database/models.js';
import { ControlsController } from './controls.controller.js';
import { ControlsService } from './controls.service.js';
import { LinksService } from './links.service.js';

@Module({
  imports: [
    SequelizeModule.forFeature([Control, ControlLink, ControlPlan, FittedDevice, GaugeRow, Job, JobResult]),
  ],
  controllers: [ControlsController],
  providers: [ControlsService, LinksService],
  exports: [ControlsService, LinksService],
})
export class ControlsModule {}
