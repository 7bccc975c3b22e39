import { describe, expect, it } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import { typePlate } from '@firm-needle/core/family';
import type { Gauge } from '@firm-needle/core/gauge';
import { expectOk } from '@firm-needle/core/result';
import { loadFamily } from '@firm-needle/families';
import { psi, WATER } from '../testing.tsx';
import { usePlan, type Planned } from './usePlan.ts';

const SITE = { altitude_m: 300 };
const PLATE = { tankVolume: '280 L', pumpFlow: '33 L/min', relief: '81 psi' };

async function planning(of: Partial<Planned> = {}, barometer?: number) {
  const family = await loadFamily('well-switch');
  const on = { site: SITE, ...of };
  const { result } = renderHook(() => usePlan(family, on, barometer));
  for (const [id, text] of Object.entries(PLATE)) act(() => void result.current.typeOnPlate(id, text));
  return { family, result };
}

describe('a plan being made', () => {
  it('moves along what follows, and says what was given', async () => {
    const { result } = await planning();
    act(() => void result.current.type('cutIn', '43'));
    const { values, given } = result.current.plan;
    expect(values['cutIn']).toBeCloseTo(psi(43), 0);
    expect(values['cutOut']).toBeCloseTo(psi(63), 0);
    expect(values['precharge']).toBeCloseTo(psi(41), 0);
    expect(given.map((g) => g.setting)).toEqual(['cutIn']);
  });

  it('pushes back from a forbidden place, says why, and forgets it with the next move that may stand', async () => {
    const { result } = await planning();
    const was = result.current.plan.values['cutOut'];
    act(() => result.current.move('cutOut', psi(79)));
    expect(result.current.plan.values['cutOut']).toBe(was);
    expect(result.current.pushed).toMatchObject({ about: 'cutOut' });
    expect(result.current.pushed?.message).toMatch(/relief/i);
    act(() => result.current.move('cutOut', psi(62)));
    expect(result.current.pushed).toBeUndefined();
    expect(result.current.plan.values['cutOut']).toBeCloseTo(psi(62), 0);
  });

  it('refuses what cannot be typed there, and keeps what stood', async () => {
    const { result } = await planning();
    const was = result.current.plan;
    const refused = (setting: string, text: string): string | undefined => {
      let code: string | undefined;
      act(() => (code = result.current.type(setting, text)?.code));
      return code;
    };
    expect(refused('cutIn', 'abc')).toBe('not-a-number');
    expect(refused('cutIn', '9000')).toBe('outside-scale');
    expect(refused('cutIn', '4 m')).toBe('wrong-dimension');
    expect(refused('cutIn', '44 psia')).toBe('wrong-kind');
    expect(refused('runTime', '60')).toBe('not-a-setting');
    expect(result.current.plan).toEqual(was);
  });

  it('lets nobody type a plate that nothing can stand on', async () => {
    const { result } = await planning();
    let code: string | undefined;
    act(() => (code = result.current.typeOnPlate('relief', '61 psi')?.code));
    expect(code).toBeDefined();
    expect(result.current.plan.plate['relief']?.value).toBeCloseTo(psi(81), 0);
    expect(result.current.pushed?.about).toBe('relief');
  });

  it('begins anew with another variant, and keeps what was given under another school', async () => {
    const { family, result } = await planning();
    act(() => void result.current.type('cutIn', '43'));
    act(() => result.current.choose({ school: family.schools[1]?.id ?? '' }));
    expect(result.current.plan.given.map((g) => g.setting)).toEqual(['cutIn']);
    act(() => result.current.choose({ variant: family.variants[0]?.id ?? '' }));
    expect(result.current.plan.given).toEqual([]);
  });

  it('is of the next version once something was changed, and of the same one before', async () => {
    const family = await loadFamily('well-switch');
    const { result: first } = renderHook(() => usePlan(family, { site: SITE }));
    const kept = { ...first.current.plan, version: 7 };
    const on = { plan: kept, site: SITE };
    const { result } = renderHook(() => usePlan(family, on));
    expect(result.current.changed).toBe(false);
    expect(result.current.plan.version).toBe(7);
    act(() => void result.current.type('cutIn', '41'));
    expect(result.current.changed).toBe(true);
    expect(result.current.plan.version).toBe(8);
  });

  it('has the air of the day where it was read, and of the altitude where not', async () => {
    const { result: read } = await planning({}, 90_000);
    expect(read.current.ambient).toBe(90_000);
    const { result: high } = await planning({ site: { altitude_m: 1500 } });
    const { result: low } = await planning();
    expect(high.current.ambient).toBeLessThan(low.current.ambient);
  });
});

describe('the plan of a gauge’s own control', () => {
  it('has the gauge for its plate, as it is now', async () => {
    const family = await loadFamily('gauge-check');
    const gauge: Gauge = { ...WATER, id: 'g', label: 'G-9', upper: 200, division: 2, medium: 'air' };
    const own = family.plateOf?.(gauge) ?? {};
    const [id] = Object.keys(own);
    if (!id) throw new Error('A gauge has no plate.');
    const { result: bare } = renderHook(() => usePlan(family, { site: SITE }));
    const old = expectOk(typePlate(family, id, '1'));
    const on = { plan: { ...bare.current.plan, plate: { ...own, [id]: old } }, gauge, site: SITE } as Planned;
    const { result } = renderHook(() => usePlan(family, on));
    expect(result.current.plan.plate).toEqual(own);
    expect(result.current.changed).toBe(true);
  });
});
