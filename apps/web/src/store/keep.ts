import type { Problem } from '@firm-needle/contract';
import { outbox } from '../sync/outbox.ts';
import { api } from './api.ts';
import { useAppDispatch } from './index.ts';

/** The server, or its record store, cannot be reached; whatever else it says is an answer. */
export const isAway = ({ status, code }: Problem): boolean => status === 0 || code === 'store-down';

/**
 * Keeps a new record: by the server where it can be reached, so that what is wrong is said at once; else on this device, to be sent in
 * its order. @returns what is wrong; undefined where it is kept, here or there
 */
export function useKeepNew(): (
  path: string,
  body: unknown,
  send: () => Promise<{ error?: unknown }>,
) => Promise<Problem | undefined> {
  const dispatch = useAppDispatch();
  return async (path, body, send) => {
    // What stands on something that still waits here waits with it.
    const behind = await outbox.waits();
    const problem = behind ? undefined : ((await send()).error as Problem | undefined);
    // Neither a lost line nor a server without its record store is a reason to lose what was entered.
    const unreached = problem !== undefined && isAway(problem);
    if (!behind && !unreached) return problem;
    try {
      await outbox.keep([{ path, body }]);
    } catch {
      return { status: 0, code: 'not-kept', detail: 'This device could not keep it. Try again.' };
    }
    dispatch(api.util.invalidateTags(['Site', 'Control']));
    return undefined;
  };
}
