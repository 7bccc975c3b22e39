import { describe, expect, it } from '@jest/globals';
import type { Plan } from '../procedure/index.js';
import { toCanonical } from '../quantity/index.js';
import type { Family } from './contract.js';
import { linkFindings, plateFrom, rolesOf, type LinkRole, type Linked } from './links.js';
import { lastSaid } from './sheet.js';

const psi = (n: number): number => toCanonical(n, 'psi');
const ROLE: LinkRole = {
  id: 'over',
  title: 'What stands over it',
  kinds: ['any'],
  gives: { ceiling: 'trip' },
  when: ({ variant }) => variant === 'under',
};
const FAMILY = {
  plate: [
    {
      id: 'ceiling',
      title: 'Ceiling',
      dimension: 'pressure',
      unit: 'psi',
      lower: psi(1),
      upper: psi(20),
      required: false,
    },
  ],
  links: [ROLE],
} as unknown as Family;
const plan = (plate: Plan['plate'], variant = 'under'): Plan =>
  ({ variant, school: '', values: {}, limits: {}, plate, given: [], version: 1 }) as Plan;
const at = (n: number): Linked => ({ control: 'c', name: 'The other', values: { trip: psi(n) } });
const said = (n: number, links = { over: at(n) }, have = 12, variant = 'under') =>
  linkFindings(
    FAMILY,
    plan({ ceiling: { value: psi(have), text: String(have), unit: 'psi' } }, variant),
    links,
  ).map((f) => [f.severity, f.code, f.about]);

describe('a control beside another', () => {
  it('gives the plate what it is planned at, in the plate’s own unit', () => {
    expect(plateFrom(FAMILY, ROLE, at(12))).toMatchObject({ ceiling: { text: '12', unit: 'psi' } });
    expect(plateFrom(FAMILY, ROLE, at(12))['ceiling']?.value).toBeCloseTo(psi(12), 6);
  });

  it('gives nothing that the plate could not say, and nothing that is not planned', () => {
    expect(plateFrom(FAMILY, ROLE, at(25))).toEqual({});
    expect(plateFrom(FAMILY, ROLE, { ...at(12), values: {} })).toEqual({});
    expect(plateFrom(FAMILY, { ...ROLE, gives: { elsewhere: 'trip' } }, at(12))).toEqual({});
  });

  it('is held against the plate, whatever unit that was typed in', () => {
    expect(said(12)).toEqual([]);
    expect(said(12.6)).toEqual([['warn', 'link-differs', 'ceiling']]);
    expect(
      linkFindings(FAMILY, plan({ ceiling: { value: psi(12), text: '82.7371', unit: 'kPa' } }), {
        over: at(12),
      }),
    ).toEqual([]);
    const [empty] = linkFindings(FAMILY, plan({}), { over: at(9) });
    expect(empty?.message).toBe(
      'What stands over it, The other, is planned at 9 psi; the plate here says nothing.',
    );
  });

  it('counts only in the roles that the plan has', () => {
    expect(rolesOf(FAMILY, plan({})).map((r) => r.id)).toEqual(['over']);
    expect(rolesOf(FAMILY, plan({}, 'other'))).toEqual([]);
    expect(rolesOf({}, plan({}))).toEqual([]);
    expect(said(5, { over: at(5) }, 12, 'other')).toEqual([]);
    expect(linkFindings(FAMILY, plan({}), {})).toEqual([]);
  });

  it.each([
    [undefined, 'no job on it is signed'],
    [{ at: '2030-05-06T10:00:00.000Z', outcome: 'set', proved: true }, 'set and proved on 2030-05-06'],
    [{ at: '2030-05-06T10:00:00.000Z', outcome: 'set', proved: false }, 'signed on 2030-05-06, not proved'],
    [{ at: '2030-05-06T10:00:00.000Z', outcome: 'restricted', proved: true }, 'restricted on 2030-05-06'],
  ])('says how it last ended: %j', (signed, words) => {
    expect(lastSaid(signed ? { signed } : {})).toBe(words);
  });
});
