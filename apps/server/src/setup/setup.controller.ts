import { Body, Controller, Get, Post, Req, Res } from '@nestjs/common';
import type { Me, SetupForm, SetupState } from '@firm-needle/contract';
import type { Response } from 'express';
import { giveCookie } from '../auth/auth.controller.js';
import { LoginName, NewPassword } from '../auth/passwords.js';
import { Name } from '../common/fields.js';
import { Public, type ActorRequest } from '../common/user.js';
import { SetupService } from './setup.service.js';

export class SetupBody implements SetupForm {
  @Name() firm: string;
  @Name() name: string;
  @LoginName() login: string;
  @NewPassword()
  password: string;
}

@Controller('setup')
export class SetupController {
  constructor(private readonly setup: SetupService) {}

  /** Whether there is a firm yet. */
  @Public()
  @Get()
  state(): Promise<SetupState> {
    return this.setup.state();
  }

  /** The firm and its first supervisor, once; they are signed in by it. */
  @Public()
  @Post()
  async begin(
    @Body() body: SetupBody,
    @Req() request: ActorRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<Me> {
    const { token, actor } = await this.setup.begin(body, request);
    giveCookie(request, response, token);
    return actor;
  }
}
