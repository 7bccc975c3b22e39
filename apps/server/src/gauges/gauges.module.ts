import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { GaugeRow } from '../database/models.js';
import { GaugesController } from './gauges.controller.js';

@Module({ imports: [SequelizeModule.forFeature([GaugeRow])], controllers: [GaugesController] })
export class GaugesModule {}
