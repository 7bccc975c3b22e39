// Who can stand beside whom, for every family that says so: the kinds exist, and what they give is of the plate's own sort.
import { describe, expect, it } from '@jest/globals';
import { draftOf, linkFindings, makePlan, plateFrom, rolesOf, startJob } from '@firm-needle/core/family';
import { toCanonical } from '@firm-needle/core/quantity';
import { expectOk } from '@firm-needle/core/result';
import { FoldedJob, JobLog, PAYLOAD_VERSION } from '@firm-needle/core/procedure';
import { sheetOf } from '@firm-needle/core/family';
import { installed } from '../define/kit.js';
import { familyExists, loadFamily } from '../registry.js';
import { FOLDERS, kitOf } from './kitOf.js';

describe.each(FOLDERS)('%s', (id) => {
  it('names only kinds, parameters and settings that are there, each of one dimension', async () => {
    const family = await loadFamily(id);
    for (const role of family.links ?? [])
      for (const kind of role.kinds) {
        expect(familyExists(kind)).toBe(true);
        const other = await loadFamily(kind);
        expect(other.variants.some((v) => role.fits?.(draftOf(other, v.id, {})) ?? true)).toBe(true);
        expect(family.variants.some((v) => role.when?.(draftOf(family, v.id, {})) ?? true)).toBe(true);
        for (const [parameter, setting] of Object.entries(role.gives)) {
          const here = family.plate.find((p) => p.id === parameter);
          const there = other.settings.find((s) => s.id === setting);
          expect(here?.dimension).toBeDefined();
          expect(here?.dimension).toBe(there?.dimension);
        }
      }
  });
});

describe('a boiler’s control and its limit', () => {
  const psi = (n: number): number => toCanonical(n, 'psi');

  it('stand in each other’s role, never in their own', async () => {
    const family = await loadFamily('steam-control');
    const [sub, limit] = ['sub', 'limit'].map((v) => makePlan(family, draftOf(family, v, {})));
    if (!sub || !limit) throw new Error('no plans');
    expect(rolesOf(family, sub).map((r) => [r.id, r.fits?.(limit), r.fits?.(sub)])).toEqual([
      ['limit', true, false],
    ]);
    expect(rolesOf(family, limit).map((r) => [r.id, r.fits?.(sub), r.fits?.(limit)])).toEqual([
      ['operating', true, false],
    ]);
  });

  it('takes the limit’s trip over on its plate; a limit lowered meanwhile is told, and stands on the sheet', async () => {
    const family = await loadFamily('steam-control');
    const kit = kitOf('steam-control');
    const variant = kit.variants.find((v) => v.variant === 'sub');
    if (!variant) throw new Error('no variant');
    const { started } = installed(family, kit, variant);
    const linked = {
      control: 'c',
      name: 'Red limit',
      values: { cutOut: psi(7.4) },
      signed: { at: '2031-02-03T00:00:00.000Z', outcome: 'left-as-found', proved: true },
    };
    const [finding] = linkFindings(family, started.plan, { limit: linked });
    expect(finding).toMatchObject({ code: 'link-differs', about: 'limit' });
    expect(finding?.message).toMatch(/Red limit, is planned at 7.4 psi; the plate here says 8 psi/);
    const role = rolesOf(family, started.plan)[0];
    if (!role) throw new Error('no role');
    const plate = { ...started.plan.plate, ...plateFrom(family, role, linked) };
    const plan = makePlan(family, { ...started.plan, plate });
    expect(linkFindings(family, plan, { limit: linked })).toEqual([]);
    expect(
      family.check({ ...plan, values: { ...plan.values, cutOut: psi(6.9) } }, 101325).map((f) => f.code),
    ).toContain('near-limit');
    const body = expectOk(
      startJob(family, { ...started, technician: 'x', plan, links: { limit: linked, operating: linked } }),
    );
    const log = new JobLog('j');
    log.append({
      id: '01900000-0000-7000-8000-000000000001',
      job: 'j',
      version: PAYLOAD_VERSION,
      after: null,
      author: 'a',
      device: 'd',
      wall: '2031-03-01T08:00:00.000Z',
      mono: 0,
      body,
    });
    expect(sheetOf(family, new FoldedJob(family, log.state)).links).toEqual([
      { title: 'Limit control of this boiler', text: 'Red limit, left as found on 2031-02-03' },
    ]);
  });
});
