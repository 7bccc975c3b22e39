import { Body, Controller, Delete, Get, HttpCode, Param, Post, Req, Res } from '@nestjs/common';
import type { PasswordForm, SignInForm } from '@firm-needle/contract';
import { IsString, MaxLength, MinLength } from 'class-validator';
import type { CookieOptions, Response } from 'express';
import { CurrentUser, Public, type Actor, type ActorRequest } from '../common/user.js';
import { AuthService, SESSION_COOKIE } from './auth.service.js';
import { NewPassword } from './passwords.js';

export class SignInBody implements SignInForm {
  @IsString() @MinLength(1) @MaxLength(60) login: string;
  @IsString() @MinLength(1) @MaxLength(200) password: string;
}

export class PasswordBody implements PasswordForm {
  @IsString() @MinLength(1) @MaxLength(200) current: string;
  @NewPassword()
  next: string;
}

const SESSION_MS = 30 * 86400e3;
const tokenOf = (request: ActorRequest): string =>
  (request.cookies as Record<string, string>)[SESSION_COOKIE] ?? '';

/** The cookie that a session is known by. */
export const giveCookie = (request: ActorRequest, response: Response, token: string): void =>
  void response.cookie(SESSION_COOKIE, token, { ...cookie(request), maxAge: SESSION_MS });

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
    const { token, actor } = await this.auth.signIn(
      body.login.trim(),
      body.password,
      request.ip ?? '',
      request.headers['user-agent'],
    );
    giveCookie(request, response, token);
    return actor;
  }

  @Post('sign-out')
  @HttpCode(204)
  async signOut(@Req() request: ActorRequest, @Res({ passthrough: true }) response: Response): Promise<void> {
    const token = tokenOf(request);
    if (token) await this.auth.signOut(token);
    response.clearCookie(SESSION_COOKIE, cookie(request));
  }

  @Get('me')
  me(@CurrentUser() actor: Actor): Actor {
    return actor;
  }

  /** One's own sessions. */
  @Get('sessions')
  sessions(@CurrentUser() actor: Actor, @Req() request: ActorRequest) {
    return this.auth.sessionsOf(actor, tokenOf(request));
  }

  @Delete('sessions/:id')
  @HttpCode(204)
  end(@CurrentUser() actor: Actor, @Param('id') id: string): Promise<void> {
    return this.auth.end(actor, id);
  }

  /** A new password of one's own. */
  @Post('password')
  @HttpCode(204)
  change(
    @CurrentUser() actor: Actor,
    @Body() body: PasswordBody,
    @Req() request: ActorRequest,
  ): Promise<void> {
    return this.auth.change(actor, body.current, body.next, tokenOf(request));
  }
}
