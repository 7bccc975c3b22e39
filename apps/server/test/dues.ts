// What is due, asked by a test, and what an answer says is wrong.
import { get } from './stand.js';

export const today = new Date().toISOString().slice(0, 10);
export interface Due {
  readonly id: string;
  readonly name: string;
  readonly day: string;
  readonly site: { readonly id: string; readonly name: string };
  readonly reasons: readonly { readonly kind: string; readonly day: string; readonly because: string }[];
  readonly visit: { readonly id: string; readonly day: string } | null;
}
export const due = async (query = '?limit=200', as?: string): Promise<Due[]> =>
  ((await get(`/due${query}`, as)).body as { items: Due[] }).items;
export const codeOf = (body: unknown): string | undefined => (body as { code?: string }).code;
export const fieldOf = (body: unknown): string | undefined =>
  (body as { errors?: { field: string }[] }).errors?.[0]?.field;
