import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { Control, Equipment, GaugeCheck, GaugeRow, GaugeSpan, Site } from '../database/models.js';
import { DueModule } from '../due/due.module.js';
import { GaugesController } from './gauges.controller.js';
import { GaugesService } from './gauges.service.js';

@Module({
  imports: [
    SequelizeModule.forFeature([GaugeRow, GaugeCheck, GaugeSpan, Control, Equipment, Site]),
    DueModule,
  ],
  controllers: [GaugesController],
  providers: [GaugesService],
})
export class GaugesModule {}
