import { Module } from '@nestjs/common';
import { APP_FILTER, APP_GUARD, APP_PIPE } from '@nestjs/core';
import { SequelizeModule } from '@nestjs/sequelize';
import { AuthModule } from './auth/auth.module.js';
import { CsrfGuard, SessionGuard } from './common/guards.js';
import { ProblemFilter } from './common/problem.filter.js';
import { validation } from './common/validation.js';
import { ControlsModule } from './controls/controls.module.js';
import { connectionOptions } from './database/connection.js';
import { EquipmentModule } from './equipment/equipment.module.js';
import { ExchangeModule } from './exchange/exchange.module.js';
import { GaugesModule } from './gauges/gauges.module.js';
import { DueModule } from './due/due.module.js';
import { HandoverModule } from './handover/handover.module.js';
import { HealthModule } from './health/health.module.js';
import { JobsModule } from './jobs/jobs.module.js';
import { PeopleModule } from './people/people.module.js';
import { PhotosModule } from './photos/photos.module.js';
import { PracticeModule } from './practice/practice.module.js';
import { SearchModule } from './search/search.module.js';
import { SetupModule } from './setup/setup.module.js';
import { SitesModule } from './sites/sites.module.js';
import { TracesModule } from './traces/traces.module.js';
import { VisitsModule } from './visits/visits.module.js';

@Module({
  imports: [
    SequelizeModule.forRootAsync({ useFactory: connectionOptions }),
    AuthModule,
    SitesModule,
    EquipmentModule,
    ControlsModule,
    GaugesModule,
    VisitsModule,
    JobsModule,
    TracesModule,
    HealthModule,
    SetupModule,
    PeopleModule,
    DueModule,
    SearchModule,
    PhotosModule,
    PracticeModule,
    HandoverModule,
    ExchangeModule,
  ],
  providers: [
    { provide: APP_FILTER, useClass: ProblemFilter },
    { provide: APP_PIPE, useFactory: validation },
    { provide: APP_GUARD, useClass: CsrfGuard },
    { provide: APP_GUARD, useClass: SessionGuard },
  ],
})
export class AppModule {}
