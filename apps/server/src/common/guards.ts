import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { AuthService, SESSION_COOKIE } from '../auth/auth.service.js';
import { Problem } from './problem.js';
import { PUBLIC, type ActorRequest } from './user.js';

const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);
/** A header that a page of another origin cannot send without being asked about it first. */
export const CSRF_HEADER = 'x-firm-needle';

/** Unsafe requests come from our own pages only: own header, and no foreign origin. */
@Injectable()
export class CsrfGuard implements CanActivate {
  canActivate(context: ExecutionContext): boolean {
    const request = context.switchToHttp().getRequest<ActorRequest>();
    if (SAFE.has(request.method)) return true;
    const site = request.headers['sec-fetch-site'];
    if (request.headers[CSRF_HEADER] === undefined || (site !== undefined && site !== 'same-origin'))
      throw new Problem(403, 'foreign-request', 'This request did not come from the app.', {
        remedy: 'Open the app and try again there.',
      });
    return true;
  }
}

/** Everything but public routes needs a session. */
@Injectable()
export class SessionGuard implements CanActivate {
  constructor(
    private readonly reflector: Reflector,
    private readonly auth: AuthService,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    if (this.reflector.getAllAndOverride<boolean>(PUBLIC, [context.getHandler(), context.getClass()]))
      return true;
    const request = context.switchToHttp().getRequest<ActorRequest>();
    const token = (request.cookies as Record<string, string> | undefined)?.[SESSION_COOKIE];
    const actor = token ? await this.auth.actorOf(token) : undefined;
    if (!actor)
      throw new Problem(401, 'signed-out', 'You are signed out.', {
        remedy: 'Sign in; what you entered is kept on this device.',
      });
    request.actor = actor;
    return true;
  }
}
