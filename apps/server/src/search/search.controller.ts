import { Controller, Get, Query } from '@nestjs/common';
import { IsString, MaxLength, MinLength } from 'class-validator';
import { CurrentUser, type Actor } from '../common/user.js';
import { SearchService } from './search.service.js';

export class SearchQuery {
  @IsString() @MinLength(2, { message: 'is one letter: type two' }) @MaxLength(100) q: string;
}

@Controller('search')
export class SearchController {
  constructor(private readonly search: SearchService) {}

  /** Sites, equipment, controls, gauges, serials and findings by a few letters. */
  @Get()
  find(@CurrentUser() actor: Actor, @Query() query: SearchQuery) {
    return this.search.find(actor, query.q.trim());
  }
}
