import {
  findUnit,
  fromCanonical,
  parseNumber,
  parseQuantity,
  toCanonical,
  type PressureKind,
} from '@firm-needle/core/quantity';
import { saturationPressure, saturationTemperatureAt } from '@firm-needle/core/reckon';
import { must, no } from '../answer.js';
import { ambientOr, ambientSaid, type Options } from '../options.js';

const unitNamed = (text: string | undefined, where: string) => {
  const unit = findUnit(text ?? '');
  return unit ?? no('unknown-unit', `"${text ?? ''}" is not a unit this app knows.`, { where });
};

/** `convert 11.2 inH2O psi`: a value in another unit; gauge and absolute cross only with an ambient pressure. */
export function convertCommand(o: Options): object {
  const [text, from, to] = o.words;
  const value = must(parseNumber(text ?? ''));
  const a = unitNamed(from, 'from');
  const b = unitNamed(to, 'to');
  if (a.dimension !== b.dimension)
    no('wrong-dimension', `${a.id} is a ${a.dimension} and ${b.id} a ${b.dimension}.`, { where: 'to' });
  let canonical = toCanonical(value, a.id);
  if (a.kind === 'absolute' && canonical < 0)
    no('below-vacuum', `${text} ${a.id} is below vacuum: nothing is.`, {
      where: 'value',
      bound: `0 ${a.id}`,
    });
  const kinds: [PressureKind | undefined, PressureKind | undefined] = [a.kind, b.kind];
  if (kinds[0] && kinds[1] && kinds[0] !== kinds[1]) {
    if (kinds.includes('difference'))
      no('wrong-kind', 'A difference is neither gauge nor absolute.', { where: 'to' });
    const ambient = ambientSaid(o);
    if (ambient === undefined)
      no('ambient-missing', `${a.id} and ${b.id} differ in kind.`, {
        where: 'ambient',
        remedy: 'Say --ambient 101.3kPa or --altitude 300m.',
      });
    canonical += (kinds[0] === 'gauge' ? 1 : -1) * (ambient ?? 0);
    if (kinds[1] === 'absolute' && canonical < 0)
      no('below-vacuum', `${text} ${a.id} is below vacuum there.`, { where: 'value' });
  }
  const one = kinds.includes('absolute') && kinds.includes(undefined);
  return {
    value: fromCanonical(canonical, b.id),
    unit: b.id,
    // A unit that does not say from where it counts is converted as it stands.
    ...(one
      ? { assumed: `${kinds[0] ? b.id : a.id} is taken as absolute, as ${kinds[0] ? a.id : b.id} is.` }
      : {}),
  };
}

/** `pt R410A 71 degF` and `pt R410A --at 180psi`: saturation either way. */
export function ptCommand(o: Options): object {
  const [fluid = '', ...rest] = o.words;
  const ambient = ambientOr(o);
  const side = (p: number): object => ({ gauge_Pa: p - ambient, absolute_Pa: p });
  const at = o.one('at');
  if (at !== undefined) {
    const p = must(parseQuantity(at, 'pressure', 'psi'));
    const kind = p.kind ?? 'gauge';
    if (kind === 'absolute' && p.value < 0)
      no('below-vacuum', `${at} is below vacuum: nothing is.`, { where: '--at', bound: `0 ${p.unit}` });
    const T = (s: 'bubble' | 'dew'): number =>
      must(saturationTemperatureAt(fluid, p.value, kind, ambient, s));
    return { refrigerant: fluid, bubble: { T_K: T('bubble') }, dew: { T_K: T('dew') }, T_K: T('bubble') };
  }
  const T = must(parseQuantity(rest.join(' '), 'temperature', 'degC')).value;
  const s = must(saturationPressure(fluid, T));
  return { refrigerant: fluid, T_K: T, bubble: side(s.bubble), dew: side(s.dew) };
}
