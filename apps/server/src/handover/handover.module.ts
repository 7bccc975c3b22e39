import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { DueReasonRow, Job, JobFlag, JobResult, Share, User } from '../database/models.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { PhotosModule } from '../photos/photos.module.js';
import { VisitsModule } from '../visits/visits.module.js';
import { HandoverController } from './handover.controller.js';
import { RecordsService } from './records.service.js';
import { SharedController } from './shared.controller.js';
import { SharesService } from './shares.service.js';
import { TagsService } from './tags.service.js';
import { VisitSummary } from './visitSummary.js';

@Module({
  imports: [
    SequelizeModule.forFeature([DueReasonRow, Job, JobFlag, JobResult, Share, User]),
    JobsModule,
    PhotosModule,
    VisitsModule,
  ],
  controllers: [HandoverController, SharedController],
  providers: [RecordsService, SharesService, TagsService, VisitSummary],
})
export class HandoverModule {}
