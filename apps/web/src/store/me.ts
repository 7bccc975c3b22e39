import { createContext, use } from 'react';
import type { Me } from './types.ts';

export const MeContext = createContext<Me | undefined>(undefined);

/** The signed-in person; only below the signed-in routes. */
export function useMe(): Me {
  const me = use(MeContext);
  if (!me) throw new Error('useMe outside the signed-in routes.');
  return me;
}
