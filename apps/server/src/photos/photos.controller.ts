import type { ControlPhotoForm } from '@firm-needle/contract';
import { PHOTO_SIDE } from '@firm-needle/core/procedure';
import {
  Body,
  Controller,
  Get,
  Header,
  HttpCode,
  Param,
  ParseUUIDPipe,
  Put,
  StreamableFile,
} from '@nestjs/common';
import { IsBoolean, IsInt, IsOptional, Matches, Max, Min } from 'class-validator';
import { Line } from '../common/fields.js';
import { ParseHashPipe, SHA256 } from '../common/hash.js';
import { CurrentUser, type Actor } from '../common/user.js';
import { PhotosService } from './photos.service.js';

const MOST_CAPTION = 400;

export class ControlPhotoBody implements ControlPhotoForm {
  @Matches(SHA256, { message: 'is no SHA-256' }) hash: string;
  @IsInt() @Min(1) @Max(PHOTO_SIDE) width: number;
  @IsInt() @Min(1) @Max(PHOTO_SIDE) height: number;
  @Line(MOST_CAPTION) text: string;
  @IsOptional() @IsBoolean() removed?: boolean;
}

@Controller()
export class PhotosController {
  constructor(private readonly photos: PhotosService) {}

  /** A photo's bytes under their own hash; the same twice is one. */
  @Put('photos/:hash')
  @HttpCode(200)
  put(@CurrentUser() actor: Actor, @Param('hash', ParseHashPipe) hash: string, @Body() data: unknown) {
    return this.photos.put(actor, hash, data);
  }

  @Get('photos/:hash')
  @Header('Content-Type', 'image/jpeg')
  @Header('Cache-Control', 'private, max-age=31536000, immutable')
  async bytes(
    @CurrentUser() actor: Actor,
    @Param('hash', ParseHashPipe) hash: string,
  ): Promise<StreamableFile> {
    return new StreamableFile(await this.photos.bytes(actor, hash));
  }

  /** Photos of a control and of its jobs. */
  @Get('controls/:id/photos')
  list(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.photos.list(actor, id);
  }

  @Put('controls/:id/photos/:photo')
  ofControl(
    @CurrentUser() actor: Actor,
    @Param('id', ParseUUIDPipe) id: string,
    @Param('photo', ParseUUIDPipe) photo: string,
    @Body() body: ControlPhotoBody,
  ) {
    return this.photos.ofControl(actor, id, photo, { ...body, text: body.text ?? '' });
  }
}
