import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import {
  Control,
  ControlPlan,
  DueReasonRow,
  FittedDevice,
  GaugeRow,
  JobFlag,
  JobResult,
  Visit,
  VisitControl,
} from '../database/models.js';
import { DueController } from './due.controller.js';
import { DueService } from './due.service.js';
import { DueList } from './dueList.service.js';

@Module({
  imports: [
    SequelizeModule.forFeature([
      Control,
      ControlPlan,
      DueReasonRow,
      FittedDevice,
      GaugeRow,
      JobFlag,
      JobResult,
      Visit,
      VisitControl,
    ]),
  ],
  controllers: [DueController],
  providers: [DueService, DueList],
  exports: [DueService],
})
export class DueModule {}
