import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { CalendarRow, Control, DueReasonRow, Equipment, FittedDevice, Site } from '../database/models.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { CalendarsService } from './calendars.service.js';
import { DossierService } from './dossier.service.js';
import { ExchangeController } from './exchange.controller.js';
import { ExportsService } from './exports.service.js';
import { ImportsService } from './imports.service.js';

@Module({
  imports: [
    SequelizeModule.forFeature([CalendarRow, Control, DueReasonRow, Equipment, FittedDevice, Site]),
    JobsModule,
  ],
  controllers: [ExchangeController],
  providers: [ExportsService, CalendarsService, ImportsService, DossierService],
})
export class ExchangeModule {}
