import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { Control, Job, Site, User, Visit, VisitControl } from '../database/models.js';
import { PlanningService } from './planning.service.js';
import { VisitsController } from './visits.controller.js';
import { VisitsService } from './visits.service.js';

@Module({
  imports: [SequelizeModule.forFeature([Visit, VisitControl, Control, Job, Site, User])],
  controllers: [VisitsController],
  providers: [VisitsService, PlanningService],
  exports: [VisitsService],
})
export class VisitsModule {}
