import type { Person } from '@firm-needle/contract';
import type { Actor } from '../common/user.js';
import type { User } from '../database/models.js';

/** A person as the firm sees them; how they sign in is told to a supervisor and to themselves. */
export const viewPerson = (u: User, actor: Actor): Person => ({
  id: u.id,
  ...(actor.role === 'supervisor' || actor.id === u.id ? { login: u.login } : {}),
  name: u.name,
  role: u.role,
  permits: u.permits.map((p) => (typeof p === 'string' ? { id: p } : p)),
  siteId: u.siteId,
  disabled: u.disabledAt !== null,
  version: u.version,
});
