import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';

/**
 * Work that one server at a time does, whichever it is; the others wait for it.
 * @param name of the lock, for the whole database server
 * @param wait_s the longest that another is waited for
 * @throws Error where that was not long enough
 */
export async function alone<T>(
  db: Sequelize,
  name: string,
  wait_s: number,
  work: () => Promise<T>,
): Promise<T> {
  // The lock belongs to a connection: a transaction holds on to one for as long as it lasts.
  return db.transaction(async (transaction) => {
    await take(db, name, wait_s, transaction);
    try {
      return await work();
    } finally {
      await db.query('SELECT RELEASE_LOCK(?)', { replacements: [name], transaction });
    }
  });
}

async function take(db: Sequelize, name: string, wait_s: number, transaction: Transaction): Promise<void> {
  const [row] = await db.query<{ got: number | null }>('SELECT GET_LOCK(?, ?) AS got', {
    replacements: [name, wait_s],
    transaction,
    type: QueryTypes.SELECT,
  });
  if (row?.got !== 1) throw new Error(`Another server has held ${name} for over ${wait_s} s.`);
}
