import { Body, Controller, Get, HttpCode, Post, Req, Res } from '@nestjs/common';
import type { SignInForm } from '@firm-needle/contract';
import { IsString, MaxLength, MinLength } from 'class-validator';
import type { CookieOptions, Response } from 'express';
import { CurrentUser, Public, type Actor, type ActorRequest } from '../common/user.js';
import { AuthService, SESSION_COOKIE } from './auth.service.js';

export class SignInBody implements SignInForm {
  @IsString() @MinLength(1) @MaxLength(60) login: string;
  @IsString() @MinLength(1) @MaxLength(200) password: string;
}

const cookie = (request: ActorRequest): CookieOptions => ({
  httpOnly: true,
  sameSite: 'lax',
  secure: request.protocol === 'https',
  path: '/',
});

@Controller('auth')
export class AuthController {
  constructor(private readonly auth: AuthService) {}

  @Public()
  @Post('sign-in')
  @HttpCode(200)
  async signIn(
    @Body() body: SignInBody,
    @Req() request: ActorRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<Actor> {
    const { token, actor } = await this.auth.signIn(body.login.trim(), body.password, request.ip ?? '');
    response.cookie(SESSION_COOKIE, token, { ...cookie(request), maxAge: 30 * 86400e3 });
    return actor;
  }

  @Post('sign-out')
  @HttpCode(204)
  async signOut(@Req() request: ActorRequest, @Res({ passthrough: true }) response: Response): Promise<void> {
    const token = (request.cookies as Record<string, string>)[SESSION_COOKIE];
    if (token) await this.auth.signOut(token);
    response.clearCookie(SESSION_COOKIE, cookie(request));
  }

  @Get('me')
  me(@CurrentUser() actor: Actor): Actor {
    return actor;
  }
}
