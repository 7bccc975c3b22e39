// What goes out of the book and comes into it, asked by a test.
import type { ImportState } from '@firm-needle/contract';
import request from 'supertest';
import { v7 as uuid } from 'uuid';
import { here } from './stand.js';

export const del = (path: string, as = here.cookie) =>
  request(here.app.getHttpServer()).delete(`/api/v1${path}`).set('Cookie', as).set('x-firm-needle', '1');
export const rowsOf = (text: string): string[][] =>
  text
    .replace(/^\ufeff/, '')
    .trimEnd()
    .split('\r\n')
    .map((l) => l.split(','));

export const HEAD = 'site,altitude_m,customer,equipment,control,kind,months';
/** A table sent to be read in, as a file of that name. */
export const readIn = async (text: string | Buffer, as: string): Promise<ImportState> =>
  (
    await request(here.app.getHttpServer())
      .put(`/api/v1/imports/${uuid()}?name=book.csv`)
      .set('Cookie', as)
      .set('x-firm-needle', '1')
      .set('Content-Type', 'text/csv')
      .send(text)
  ).body as ImportState;
