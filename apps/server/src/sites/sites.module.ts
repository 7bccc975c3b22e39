import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { Control, Equipment, Site } from '../database/models.js';
import { SitesController } from './sites.controller.js';
import { SitesService } from './sites.service.js';

@Module({
  imports: [SequelizeModule.forFeature([Site, Equipment, Control])],
  controllers: [SitesController],
  providers: [SitesService],
})
export class SitesModule {}
