import { createContext, use } from 'react';
import type { Me } from '@firm-needle/contract';

export const MeContext = createContext<Me | undefined>(undefined);

/** The signed-in person; only below the signed-in routes. */
export function useMe(): Me {
  const me = use(MeContext);
  if (!me) throw new Error('useMe outside the signed-in routes.');
  return me;
}

const KEY = 'firm-needle-me';

/** The account last signed in on this device, so that it can go on with no server and no cache. */
export function keptMe(): Me | undefined {
  try {
    return (JSON.parse(localStorage.getItem(KEY) ?? 'null') as Me | null) ?? undefined;
  } catch {
    return undefined;
  }
}

export const keepMe = (me: Me): void => localStorage.setItem(KEY, JSON.stringify(me));
export const forgetMe = (): void => localStorage.removeItem(KEY);
