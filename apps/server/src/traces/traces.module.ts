import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { ControlsModule } from '../controls/controls.module.js';
import { Trace, TraceBlock, TraceCorrection, User } from '../database/models.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { TracesController } from './traces.controller.js';
import { TracesService } from './traces.service.js';

@Module({
  imports: [
    SequelizeModule.forFeature([Trace, TraceBlock, TraceCorrection, User]),
    ControlsModule,
    JobsModule,
  ],
  controllers: [TracesController],
  providers: [TracesService],
})
export class TracesModule {}
