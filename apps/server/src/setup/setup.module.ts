import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { AuthModule } from '../auth/auth.module.js';
import { Organisation, User } from '../database/models.js';
import { SetupController } from './setup.controller.js';
import { SetupService } from './setup.service.js';

@Module({
  imports: [SequelizeModule.forFeature([Organisation, User]), AuthModule],
  controllers: [SetupController],
  providers: [SetupService],
})
export class SetupModule {}
