import { DatabaseError, type Sequelize, type Transaction } from 'sequelize';
import { Problem } from './problem.js';

const MOST_TRIES = 4;
const YIELDS = new Set(['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_CHECKREAD']);

/** Whether something met another of its kind and need only go again. */
function met(error: unknown): boolean {
  if (error instanceof Problem) return error.code === 'at-once';
  return (
    error instanceof DatabaseError &&
    YIELDS.has((error.original as { code?: string } | undefined)?.code ?? '')
  );
}

/** Work in one transaction: of two that meet, the one that is chosen to yield simply goes again. */
export async function inTransaction<T>(
  db: Sequelize,
  work: (transaction: Transaction) => Promise<T>,
): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await db.transaction(work);
    } catch (error) {
      if (tries === MOST_TRIES || !met(error)) throw error;
    }
  }
}
