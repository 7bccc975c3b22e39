import { Controller, Get, Header, Param, Res, StreamableFile } from '@nestjs/common';
import type { Response } from 'express';
import { ParseHashPipe } from '../common/hash.js';
import { Public } from '../common/user.js';
import { pdfAnswer } from './handover.controller.js';
import { SharesService } from './shares.service.js';

/** What stands behind a link: no account, nothing else of the firm. */
@Public()
@Controller('shared')
export class SharedController {
  constructor(private readonly shares: SharesService) {}

  @Get(':token')
  @Header('Cache-Control', 'no-store')
  sheet(@Param('token') token: string) {
    return this.shares.sheet(token);
  }

  @Get(':token/sheet.pdf')
  async pdf(
    @Param('token') token: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    return pdfAnswer(response, await this.shares.pdf(token));
  }

  @Get(':token/photos/:hash')
  @Header('Content-Type', 'image/jpeg')
  @Header('Cache-Control', 'private, no-store')
  async photo(
    @Param('token') token: string,
    @Param('hash', ParseHashPipe) hash: string,
  ): Promise<StreamableFile> {
    return new StreamableFile(await this.shares.photo(token, hash));
  }
}
