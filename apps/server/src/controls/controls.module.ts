import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import {
  Control,
  ControlLink,
  ControlPlan,
  DueReasonRow,
  Equipment,
  FittedDevice,
  GaugeRow,
  Job,
  JobFinding,
  JobGauge,
  JobResult,
} from '../database/models.js';
import { ControlsController } from './controls.controller.js';
import { ControlsService } from './controls.service.js';
import { CopiesService } from './copies.service.js';
import { LifeService } from './life.service.js';
import { OpenJobs } from './openJobs.js';
import { RegisterService } from './register.service.js';
import { DueModule } from '../due/due.module.js';
import { LinksService } from './links.service.js';

@Module({
  imports: [
    SequelizeModule.forFeature([
      Control,
      ControlLink,
      ControlPlan,
      DueReasonRow,
      Equipment,
      FittedDevice,
      GaugeRow,
      Job,
      JobFinding,
      JobGauge,
      JobResult,
    ]),
    DueModule,
  ],
  controllers: [ControlsController],
  providers: [ControlsService, LinksService, CopiesService, OpenJobs, RegisterService, LifeService],
  exports: [ControlsService, LinksService, CopiesService, OpenJobs],
})
export class ControlsModule {}
