import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { GaugeCheck, GaugeRow } from '../database/models.js';
import { GaugesController } from './gauges.controller.js';
import { GaugesService } from './gauges.service.js';

@Module({
  imports: [SequelizeModule.forFeature([GaugeRow, GaugeCheck])],
  controllers: [GaugesController],
  providers: [GaugesService],
})
export class GaugesModule {}
