import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { Control, Job, JobResult, Visit, VisitControl } from '../database/models.js';
import { VisitsController } from './visits.controller.js';
import { VisitsService } from './visits.service.js';

@Module({
  imports: [SequelizeModule.forFeature([Visit, VisitControl, Control, Job, JobResult])],
  controllers: [VisitsController],
  providers: [VisitsService],
})
export class VisitsModule {}
