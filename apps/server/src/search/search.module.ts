import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { Control, Equipment, GaugeRow, JobFinding, Site } from '../database/models.js';
import { SearchController } from './search.controller.js';
import { SearchService } from './search.service.js';

@Module({
  imports: [SequelizeModule.forFeature([Site, Equipment, Control, GaugeRow, JobFinding])],
  controllers: [SearchController],
  providers: [SearchService],
})
export class SearchModule {}
