import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { DueModule } from '../due/due.module.js';
import { ControlsModule } from '../controls/controls.module.js';
import {
  Control,
  ControlPlan,
  Equipment,
  FittedDevice,
  GaugeCheck,
  GaugeRow,
  GaugeSpan,
  Job,
  JobEventRow,
  JobFinding,
  JobFlag,
  JobGauge,
  JobResult,
  Organisation,
  Site,
  Visit,
} from '../database/models.js';
import { AppendService } from './append.service.js';
import { EvidenceService } from './evidence.service.js';
import { JobsController } from './jobs.controller.js';
import { JobsService } from './jobs.service.js';
import { JudgeService } from './judge.service.js';
import { ResultsService } from './results.service.js';

@Module({
  imports: [
    SequelizeModule.forFeature([
      Job,
      JobEventRow,
      JobResult,
      Organisation,
      JobFinding,
      JobFlag,
      JobGauge,
      Equipment,
      Site,
      Visit,
      Control,
      ControlPlan,
      FittedDevice,
      GaugeRow,
      GaugeCheck,
      GaugeSpan,
    ]),
    ControlsModule,
    DueModule,
  ],
  controllers: [JobsController],
  providers: [JobsService, AppendService, EvidenceService, JudgeService, ResultsService],
  exports: [JobsService, ResultsService],
})
export class JobsModule {}
