import type { Help } from '@firm-needle/core/practice';
import { createContext, use } from 'react';

/** What is practised, for the faces: what they may not give away. */
export interface Practised {
  readonly help: Help;
  /** The name of the step at hand, where names are all that there is. */
  readonly title?: string;
}

export const PracticeContext = createContext<Practised | undefined>(undefined);

/** What is practised; undefined in work. */
export const usePractised = (): Practised | undefined => use(PracticeContext);
