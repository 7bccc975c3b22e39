// Check values of the trade are marked so; the units are held against GNU Units in `reference/`.
import { describe, expect, it } from '@jest/globals';
import { ambientAt, toCanonical } from '@firm-needle/core/quantity';
import { expectOk } from '@firm-needle/core/result';
import { type Plan } from '@firm-needle/core/procedure';
import { installed, rigFor } from '../define/kit.js';
import { TestBench } from '../testing.js';
import { family } from './index.js';
import { kit } from './kit.js';
import { inches } from './parts.js';
import { derated, heightOf, inputOf } from './reckoned.js';

const bench = new TestBench(family, {
  variant: 'train',
  plate: kit.plate ?? {},
  given: {},
  gauges: kit.gauges,
});
interface Over {
  readonly variant?: string;
  readonly given?: Readonly<Record<string, string>>;
  readonly plate?: Readonly<Record<string, string>>;
  readonly choices?: Readonly<Record<string, string>>;
}
const planOf = ({ choices, ...over }: Over = {}): Plan => {
  const plan = bench.plan({ given: kit.given ?? {}, ...over });
  return choices
    ? { ...plan, choices, limits: family.limits(plan.values, plan.plate, { ...plan, choices }) }
    : plan;
};
const codes = (over: Over, severity: 'refuse' | 'warn'): readonly string[] =>
  family.check(planOf(over), 101325).flatMap((f) => (f.severity === severity ? [f.code] : []));
const siteOf = (name: string) => {
  const variant = kit.variants.find((v) => v.name === name);
  if (!variant) throw new Error(name);
  return installed(family, kit, variant);
};
const at = (inH2O: number | undefined): number => (inH2O ?? NaN) / inches(1);

describe('what the meter says', () => {
  it('is 92 700 Btu an hour for a cubic foot of 1 030 in forty seconds', () => {
    // The textbook’s 3600 × volume × heating value ÷ seconds.
    const input = inputOf(toCanonical(1, 'ft3'), toCanonical(1030, 'Btu/ft3'), 40);
    expect(input / toCanonical(1, 'Btu/h')).toBeCloseTo((3600 * 1030) / 40, 6);
    expect(input).toBeCloseTo(27_167, -1);
  });

  it('goes by the root of the manifold, as the rig burns and its meter turns', () => {
    const burnt = ['none', 'manifold-off'].map((fault) => {
      const rig = rigFor(siteOf('burner gas, furnace'), { seed: 3, faults: fault === 'none' ? [] : [fault] });
      const { manifold = NaN } = rig.truth();
      rig.set('burner', 1);
      for (let i = 0; i < 400; i++) rig.step(0.05);
      rig.set('dial', 1);
      let seconds = 0;
      while (rig.channels['meterTurn'] !== 1 && seconds < 300) {
        rig.step(0.05);
        seconds += 0.05;
      }
      return { manifold, rate: 1 / seconds };
    });
    const [a, b] = burnt;
    expect((a?.rate ?? NaN) / (b?.rate ?? NaN)).toBeCloseTo(
      Math.sqrt((a?.manifold ?? NaN) / (b?.manifold ?? NaN)),
      2,
    );
  });

  it('is less at a height, by four parts in a hundred a thousand feet over two thousand', () => {
    // NFPA 54, from memory.
    expect(derated(600)).toBe(1);
    expect(derated(1219.2)).toBeCloseTo(0.84, 6);
    for (const height of [0, 300, 1120, 2500])
      expect(heightOf(expectOk(ambientAt(height)))).toBeCloseTo(height, 3);
    const figures = family.figures(planOf(), expectOk(ambientAt(1500)));
    expect(figures.map((f) => f.id)).toEqual(['derated']);
    expect(family.figures(planOf(), 101325)).toEqual([]);
  });

  it('half a pound is 13.84 inches of our column, and 13.86 of one at 20 °C', () => {
    expect(toCanonical(0.5, 'psi') / inches(1)).toBeCloseTo(13.84, 2);
    // Water at 20 °C is 998.2 kg/m³ [published, from memory].
    expect(toCanonical(0.5, 'psi') / (inches(1) * 0.9982)).toBeCloseTo(13.86, 1);
  });
});

describe('the plan of a burner', () => {
  it('takes one dryer as it was told: both gas switches feel the gas after the regulator', () => {
    // Common practice, no source: 13.5 supplied under 14.5, 4 flowing, 8 as it locks up, 3.25 and 8.1, 0.6 and 1.2.
    const given = {
      static: '13.5 inH2O',
      manifold: '4 inH2O',
      lowGas: '3.25 inH2O',
      highGas: '8.1 inH2O',
      airTrip: '0.6 inH2O',
      mainTrip: '1.2 inH2O',
    };
    const plate = { ceiling: '14.5 inH2O', lockMost: '8 inH2O' };
    expect(codes({ given, plate }, 'refuse')).toEqual([]);
    // Against the supply it would look far off; judged where it is felt it is not.
    expect(codes({ given: { ...given, lowGas: '4.5 inH2O' }, plate }, 'refuse')).toContain('low-over-normal');
    expect(
      codes({ given: { ...given, lowGas: '4.5 inH2O' }, plate, choices: { lowTap: 'before' } }, 'refuse'),
    ).not.toContain('low-over-normal');
  });

  it.each([
    ['over-ceiling', { given: { static: '13.9 inH2O' } }],
    ['least-over-static', { given: { static: '8 inH2O' } }],
    ['manifold-over-supply', { given: { static: '4 inH2O' }, plate: { flowLeast: '2 inH2O' } }],
    ['manifold-outside-book', { plate: { manifoldLow: '4.5 inH2O', manifoldHigh: '5 inH2O' } }],
    ['book-crossed', { plate: { manifoldLow: '5 inH2O', manifoldHigh: '4.5 inH2O' } }],
    ['lock-under-manifold', { plate: { lockMost: '4 inH2O' } }],
    ['low-over-normal', { given: { lowGas: '4.4 inH2O' } }],
    ['high-under-normal', { given: { highGas: '4 inH2O' } }],
    ['low-over-high', { given: { lowGas: '9 inH2O' } }],
    ['air-under-proving', { given: { airTrip: '0.3 inH2O' } }],
  ] as const)('refuses %s', (code, over: Over) => {
    expect(codes({ ...over, given: { ...kit.given, ...over.given } }, 'refuse')).toContain(code);
    expect(codes({}, 'refuse')).toEqual([]);
  });

  it('asks for the page of the book, and for what the valve bears', () => {
    const { page: _, ceiling: __, ...plate } = kit.plate ?? {};
    const bare = new TestBench(family, { variant: 'train', plate, given: {}, gauges: kit.gauges });
    const lacking = family.check(bare.plan(), 101325).filter((f) => f.code === 'plate-missing');
    expect(lacking.map((f) => f.about)).toEqual(['page', 'ceiling']);
  });

  it.each([
    ['low-thin', { given: { lowGas: '3.9 inH2O' } }],
    ['high-thin', { given: { highGas: '4.5 inH2O' } }],
    ['unlike-fuel', { choices: { fuel: 'propane' } }],
  ] as const)('warns of %s', (code, over: Over) => {
    expect(codes({ ...over, given: { ...kit.given, ...over.given } }, 'warn')).toContain(code);
    expect(codes({}, 'warn')).not.toContain(code);
  });

  it('never lets the supply near what the valve bears, nor proves air under its level', () => {
    expect(at(family.never(planOf(), 'static'))).toBeCloseTo(13.8, 6);
    expect(at(planOf().limits['airTrip']?.lower)).toBeCloseTo(0.45, 6);
    expect(at(planOf({ plate: { airLeast: '0.5 inH2O' } }).limits['airTrip']?.lower)).toBeCloseTo(0.5, 6);
    // A propane manifold has half an inch either side, a natural one three tenths.
    expect(at(planOf({ choices: { fuel: 'propane' } }).limits['manifold']?.upper)).toBeCloseTo(4.7, 6);
  });

  it('draws gas and air on a scale each, and no switch of a furnace', () => {
    const scales = (variant: string) =>
      new Set(family.ladder(planOf({ variant, given: {} })).map((p) => `${p.scale}`));
    expect([...scales('train')].sort()).toEqual(['air', 'gas']);
    expect([...scales('furnace')]).toEqual(['gas']);
  });
});
