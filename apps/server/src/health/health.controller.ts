import { Controller, Get } from '@nestjs/common';
import { InjectConnection } from '@nestjs/sequelize';
import { CORE_VERSION } from '@firm-needle/core/version';
import type { Sequelize } from 'sequelize';
import { Public } from '../common/user.js';

@Public()
@Controller('health')
export class HealthController {
  constructor(@InjectConnection() private readonly db: Sequelize) {}

  /** The process answers. */
  @Get('live')
  live(): object {
    return { live: true, core: CORE_VERSION };
  }

  /** The record store answers, too. */
  @Get('ready')
  async ready(): Promise<object> {
    await this.db.query('SELECT 1');
    return { ready: true };
  }
}
