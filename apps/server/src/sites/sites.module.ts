import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { ControlsModule } from '../controls/controls.module.js';
import { Equipment, Site } from '../database/models.js';
import { SitesController } from './sites.controller.js';
import { SitesService } from './sites.service.js';

@Module({
  imports: [SequelizeModule.forFeature([Site, Equipment]), ControlsModule],
  controllers: [SitesController],
  providers: [SitesService],
})
export class SitesModule {}
