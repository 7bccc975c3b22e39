import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { Control, Equipment, GaugeCheck, GaugeRow, GaugeSpan, Site } from '../database/models.js';
import { GaugesController } from './gauges.controller.js';
import { GaugesService } from './gauges.service.js';

@Module({
  imports: [SequelizeModule.forFeature([GaugeRow, GaugeCheck, GaugeSpan, Control, Equipment, Site])],
  controllers: [GaugesController],
  providers: [GaugesService],
})
export class GaugesModule {}
