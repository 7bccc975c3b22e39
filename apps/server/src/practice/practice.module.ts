import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { User } from '../database/models.js';
import { PRACTICE_MODELS } from './models.js';
import { PracticeController } from './practice.controller.js';
import { PracticeService } from './practice.service.js';
import { PracticeTestsService } from './tests.service.js';

@Module({
  imports: [SequelizeModule.forFeature([...PRACTICE_MODELS, User])],
  controllers: [PracticeController],
  providers: [PracticeService, PracticeTestsService],
})
export class PracticeModule {}
