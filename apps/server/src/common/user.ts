import { createParamDecorator, SetMetadata, type ExecutionContext } from '@nestjs/common';
import type { Me } from '@firm-needle/contract';
import type { Request } from 'express';

/** Who is asking. Every query is scoped by the organisation, and a reader's by their site. */
export interface Actor extends Me {
  /** Set for a customer's account: the only site they may see. */
  readonly site: string | null;
}

export interface ActorRequest extends Request {
  actor?: Actor;
}

/** The signed-in person of this request. */
export const CurrentUser = createParamDecorator((_: unknown, context: ExecutionContext): Actor => {
  const actor = context.switchToHttp().getRequest<ActorRequest>().actor;
  if (!actor) throw new Error('CurrentUser on a public route.');
  return actor;
});

export const PUBLIC = 'public';
/** A route that needs no session. */
export const Public = (): MethodDecorator & ClassDecorator => SetMetadata(PUBLIC, true);
