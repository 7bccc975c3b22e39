// A firm's book, entered by a test: sites, equipment, controls, and what is refused of them.
import { expect } from '@jest/globals';
import { v7 as uuid } from 'uuid';
import { put } from './stand.js';

export interface Refused {
  readonly code: string;
  readonly detail: string;
  readonly errors?: readonly { readonly field: string; readonly message: string }[];
  readonly current?: Readonly<Record<string, unknown>>;
}
export const site = (over: object = {}): object => ({
  version: 1,
  name: 'Old Kiln',
  altitude_m: 12,
  ...over,
});
export const newSite = async (over: object = {}): Promise<string> => {
  const id = uuid();
  expect((await put(`/sites/${id}`, site(over))).body).toEqual({ id, version: 1 });
  return id;
};
export const newEquipment = async (siteId: string, over: object = {}): Promise<string> => {
  const id = uuid();
  const r = await put(`/equipment/${id}`, { version: 1, siteId, name: 'Well', ...over });
  expect(r.body).toEqual({ id, version: 1 });
  return id;
};
export const control = (equipmentId: string, over: object = {}): object => ({
  version: 1,
  equipmentId,
  name: 'Pump switch',
  family: 'well-switch',
  ...over,
});
export const newControl = async (equipmentId: string, over: object = {}): Promise<string> => {
  const id = uuid();
  expect((await put(`/controls/${id}`, control(equipmentId, over))).body).toEqual({ id, version: 1 });
  return id;
};
export const refused = async (
  path: string,
  body: object,
  as?: string,
): Promise<Refused & { status: number }> => {
  const r = await put(path, body, as);
  return { status: r.status, ...(r.body as Refused) };
};
export const fieldOf = (r: Refused): string | undefined => r.errors?.[0]?.field;
