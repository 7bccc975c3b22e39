// Another installation of the same kind than the one a kit describes: other pressures, other sizes, another gauge. What was built and
// proved on one installation is tried on those that nobody thought of.
import type { Gauge } from '../gauge/index.js';
import { findUnit } from '../quantity/index.js';
import type { Random } from '../rig/index.js';
import type { Kit, KitVariant } from './kit.js';

/** All pressures together are up to so many times as high, or as low (natural log); each by itself up to so much of it beside that. */
const PRESSURES = 0.45;
const EACH = 0.08;
/** Volumes, flows and lengths, each by itself (natural log). */
const SIZES = 0.5;
const SIZED: ReadonlySet<string> = new Set(['volume', 'flow', 'length']);
/** Ends of scale that are made, times a power of ten. */
const ENDS = [1, 1.5, 2, 3, 4, 6, 10];

const even = (random: Random): number => 2 * random.next() - 1;

/** A quantity as it was typed, otherwise; what is no quantity stays. */
function typed(text: string, times: number, random: Random): string {
  const [, number, name = ''] = /^(-?[\d.]+) (\S+)$/.exec(text) ?? [];
  const unit = findUnit(name);
  if (number === undefined || !unit) return text;
  const by =
    unit.dimension === 'pressure'
      ? times * (1 + EACH * even(random))
      : SIZED.has(unit.dimension)
        ? Math.exp(SIZES * even(random))
        : 1;
  return by === 1 ? text : `${Number((Number(number) * by).toPrecision(3))} ${name}`;
}

/** A gauge of the same make whose scale ends elsewhere. */
function gauge(it: Gauge, times: number): Gauge {
  if (findUnit(it.unit)?.dimension !== 'pressure' || it.upper <= 0) return it;
  const wanted = it.upper * times;
  const decade = 10 ** Math.floor(Math.log10(wanted));
  const upper = (ENDS.find((m) => m * decade >= wanted * 0.999) ?? 10) * decade;
  return { ...it, upper, division: Number(((it.division * upper) / it.upper).toPrecision(6)) };
}

const each = <T>(of: Readonly<Record<string, T>> | undefined, to: (x: T) => T): Record<string, T> =>
  Object.fromEntries(Object.entries(of ?? {}).map(([key, x]) => [key, to(x)]));

/**
 * A kit and one of its variants with another installation in them. It need not fit: what its family refuses to plan is for the caller
 * to throw again.
 */
export function otherwise(
  kit: Kit,
  variant: KitVariant,
  random: Random,
): { readonly kit: Kit; readonly variant: KitVariant } {
  const times = Math.exp(PRESSURES * even(random));
  const text = (x: string): string => typed(x, times, random);
  const over = <K extends Pick<KitVariant, 'plate' | 'given' | 'gauges'>>(of: K) => ({
    ...of,
    plate: each(of.plate, text),
    given: each(of.given, text),
    gauges: each(of.gauges, (g) => gauge(g, times)),
  });
  return { kit: over(kit), variant: over(variant) };
}
