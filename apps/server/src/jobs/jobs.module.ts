import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { ControlsModule } from '../controls/controls.module.js';
import {
  Control,
  FittedDevice,
  GaugeCheck,
  GaugeRow,
  Job,
  JobEventRow,
  JobResult,
} from '../database/models.js';
import { AppendService } from './append.service.js';
import { JobsController } from './jobs.controller.js';
import { JobsService } from './jobs.service.js';
import { ResultsService } from './results.service.js';

@Module({
  imports: [
    SequelizeModule.forFeature([Job, JobEventRow, JobResult, Control, FittedDevice, GaugeRow, GaugeCheck]),
    ControlsModule,
  ],
  controllers: [JobsController],
  providers: [JobsService, AppendService, ResultsService],
  exports: [JobsService, ResultsService],
})
export class JobsModule {}
