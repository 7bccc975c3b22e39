// Finding any of it by a few letters.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { JobFinding, JobResult } from '../src/database/models.js';
import { MIGRATIONS } from '../src/database/migrations.js';
import { openJudged } from './judged.js';
import { closeStand, get, signIn } from './stand.js';

beforeAll(openJudged, 60000);
afterAll(closeStand);

describe('the search', () => {
  const find = async (q: string, as?: string) =>
    (await get(`/search?q=${encodeURIComponent(q)}`, as)).body as {
      kind: string;
      id: string;
      title: string;
      beside: string;
    }[];

  it('finds sites, customers, controls, serials and findings by a few letters', async () => {
    expect((await find('gannet')).some((h) => h.kind === 'site' && /Gannet Hill/.test(h.title))).toBe(true);
    expect((await find('dairy comp')).some((h) => h.kind === 'site' && /creamery/.test(h.title))).toBe(true);
    expect((await find('unload')).map((h) => h.kind)).toContain('control');
    expect((await find('BH 2291')).map((h) => [h.kind, h.title])).toContainEqual([
      'equipment',
      'Steam boiler',
    ]);
    expect((await find('W-07')).map((h) => h.kind)).toContain('gauge');
    const result = await JobResult.findAll({ where: { settled: true } });
    const some =
      result.flatMap((r) => r.result.findings.map((f) => f.message)).find((m) => /\p{L}{6}/u.test(m)) ?? '';
    const word = /\p{L}{6,}/u.exec(some)?.[0] ?? '';
    expect((await find(word)).some((h) => h.kind === 'finding')).toBe(true);
  });

  it('finds what was signed before findings were kept for it', async () => {
    const { sequelize } = JobFinding;
    const before = await JobFinding.count();
    expect(before).toBeGreaterThan(0);
    await JobFinding.destroy({ where: {} });
    // A migration can be given again: after a run that was cut off, it is.
    for (let i = 0; i < 2; i++)
      for (const sql of MIGRATIONS.find((m) => m.name === '007-firm')?.up ?? []) await sequelize?.query(sql);
    expect(await JobFinding.count()).toBe(before);
  });

  it('takes what is typed for letters, and shows a customer its own site alone', async () => {
    for (const q of ['%%', '__', "' OR 1=1 --", '+*()~<>"@', '\\\\'])
      expect(Array.isArray(await find(q))).toBe(true);
    expect(await find('%%')).toEqual([]);
    expect((await get('/search?q=a')).status).toBe(422);
    expect((await get('/search')).status).toBe(422);
    const { cookie } = await signIn('observatory');
    expect(await find('lido', cookie)).toEqual([]);
    expect(await find('W-07', cookie)).toEqual([]);
    expect((await find('borehole', cookie)).length).toBeGreaterThan(0);
  });
});
