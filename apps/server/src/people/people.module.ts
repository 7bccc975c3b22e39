import { Module } from '@nestjs/common';
import { SequelizeModule } from '@nestjs/sequelize';
import { Organisation, Session, Site, User } from '../database/models.js';
import { PeopleController } from './people.controller.js';
import { PeopleService } from './people.service.js';

@Module({
  imports: [SequelizeModule.forFeature([User, Session, Site, Organisation])],
  controllers: [PeopleController],
  providers: [PeopleService],
})
export class PeopleModule {}
