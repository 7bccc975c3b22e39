import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { ControlsModule } from '../controls/controls.module.js';
import { ControlPhotoRow, Photo } from '../database/models.js';
import { PhotosController } from './photos.controller.js';
import { PhotosService } from './photos.service.js';

@Module({
  imports: [SequelizeModule.forFeature([Photo, ControlPhotoRow]), ControlsModule],
  controllers: [PhotosController],
  providers: [PhotosService],
  exports: [PhotosService],
})
export class PhotosModule {}
