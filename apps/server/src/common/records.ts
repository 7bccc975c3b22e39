import { canonicalJson } from '@firm-needle/core/formats';
import {
  UniqueConstraintError,
  type CreationAttributes,
  type Model,
  type ModelStatic,
  type Transaction,
} from 'sequelize';
import { forbidden, Problem } from './problem.js';
import type { Actor } from './user.js';

/** A row that people edit: every change is one version on. */
export interface Versioned extends Model {
  id: string;
  organisationId: string;
  version: number;
}

/** Refuses an account that may only look. */
export function mayWrite(actor: Actor): void {
  if (actor.role === 'reader') throw forbidden('Your account may look, not change.');
}

/** Refuses everybody but those who run the firm's book. */
export function maySupervise(actor: Actor): void {
  if (actor.role !== 'supervisor') throw forbidden('Only a supervisor may do that.');
}

/** What is kept under an id made on the device. */
export interface Kept<M> {
  readonly row: M;
  /** It was there before this request, just so. */
  readonly same: boolean;
}

/**
 * Keeps a record under an id that was made on a device: new at version 1, or one version on from what it was changed from. The same
 * once more is the same; what was changed by somebody else meanwhile is refused, with what stands now.
 * @param values every field that the request decides
 * @param shown the record as the API answers it
 * @throws Problem 409 id-reused, moved-on or gone
 */
export async function keepRecord<M extends Versioned>(
  model: ModelStatic<M>,
  actor: Actor,
  {
    id,
    version,
    values,
    what,
  }: {
    readonly id: string;
    readonly version: number;
    readonly values: Partial<CreationAttributes<M>>;
    readonly what: string;
  },
  shown: (row: M) => unknown,
  transaction: Transaction,
): Promise<Kept<M>> {
  const known = await model.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
  if (!known) {
    if (version !== 1)
      throw new Problem(409, 'gone', `There is no such ${what} to change.`, {
        remedy: 'Load the page anew.',
      });
    try {
      const row = await model.create(
        {
          ...values,
          id,
          organisationId: actor.organisation.id,
          version: 1,
        } as unknown as CreationAttributes<M>,
        { transaction },
      );
      return { row, same: false };
    } catch (error) {
      // Two deliveries of the same request met: the second finds what the first made.
      if (error instanceof UniqueConstraintError && 'PRIMARY' in error.fields)
        throw new Problem(409, 'at-once', 'This was being kept at the same moment.', {
          remedy: 'Send it again.',
        });
      throw error;
    }
  }
  if (known.organisationId !== actor.organisation.id)
    throw new Problem(409, 'id-reused', `That ${what} id is taken.`);
  const standing = known.get() as Record<string, unknown>;
  const same = Object.entries(values).every(([k, v]) => plain(standing[k]) === plain(v));
  if (known.version === version && same) return { row: known, same: true };
  if (known.version !== version - 1)
    throw new Problem(409, 'moved-on', `Somebody changed this ${what} meanwhile.`, {
      remedy: 'Look at what stands now, and change it again if it is still needed.',
      current: shown(known),
    });
  await known.update({ ...values, version }, { transaction });
  return { row: known, same: false };
}

const plain = (v: unknown): string => canonicalJson(v instanceof Date ? v.toISOString() : (v ?? null));
