import { Controller, Get, Param, ParseUUIDPipe, Query } from '@nestjs/common';
import { PageQuery } from '../common/page.js';
import { CurrentUser, type Actor } from '../common/user.js';
import { SitesService } from './sites.service.js';

@Controller('sites')
export class SitesController {
  constructor(private readonly sites: SitesService) {}

  @Get()
  list(@CurrentUser() actor: Actor, @Query() page: PageQuery) {
    return this.sites.list(actor, page);
  }

  /** A site with its equipment and their controls. */
  @Get(':id')
  one(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    return this.sites.one(actor, id);
  }
}
