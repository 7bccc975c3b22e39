import { useEffect, useState } from 'react';
import { request } from './http.ts';

const KEY = 'firm-needle-leaving';

/** Somebody signed out on this device; until the server knows, the account stays shut here. */
export const leave = (): void => localStorage.setItem(KEY, '1');
/** Somebody signed in again: that ends the session before by itself. */
export const stay = (): void => localStorage.removeItem(KEY);
const isLeaving = (): boolean => localStorage.getItem(KEY) !== null;

/** Tells the server of a sign-out; once it was told, or had no session any more, nothing is left to tell. */
export async function tellLeaving(): Promise<boolean> {
  if (!isLeaving()) return true;
  const answer = await request('POST', '/auth/sign-out');
  if (!answer.ok && answer.problem.status !== 401) return false;
  stay();
  return true;
}

/** Whether a sign-out is still to be told; tries as soon as there is a signal. */
export function useLeaving(): boolean {
  const [leaving, setLeaving] = useState(isLeaving);
  useEffect(() => {
    if (!leaving) return;
    const tell = (): void => void tellLeaving().then((told) => told && setLeaving(false));
    tell();
    addEventListener('online', tell);
    return () => removeEventListener('online', tell);
  }, [leaving]);
  return leaving;
}
