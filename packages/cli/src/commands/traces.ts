import { draftOf, makePlan, typePlate } from '@firm-needle/core/family';
import type { AsTyped, Plan } from '@firm-needle/core/procedure';
import { parseQuantity } from '@firm-needle/core/quantity';
import { RIG_STEP_S } from '@firm-needle/core/rig';
import { analyse, type Said } from '@firm-needle/core/trace';
import { tracedFamilies, traceKindOf } from '@firm-needle/families';
import { createWriteStream } from 'node:fs';
import { once } from 'node:events';
import { must, no } from '../answer.js';
import type { FileRead } from '@firm-needle/tables';
import { readTable } from '../file.js';
import { ambientOr, ambientSaid, type Options } from '../options.js';
import { familyNamed } from './plans.js';

const BASES = ['gauge', 'absolute', 'vacuum'] as const;
const ORDERS = ['ymd', 'dmy', 'mdy'] as const;
const FORMS = ['number', 'iso', 'clock', 'minutes'] as const;

/** What can be said of a file, where what is found in it is not so. */
export const TRACE_OPTIONS: Readonly<Record<string, string>> = {
  '--family': 'whose figures are wanted',
  '--unit': 'of the pressures, where no heading says it',
  '--time': 'number of the column of times, from 1',
  '--pressure': 'number of the column of pressures, from 1',
  '--basis': BASES.join(', '),
  '--dates': `what stands first in a date: ${ORDERS.join(', ')}`,
  '--times': `how times are written: ${FORMS.join(', ')}`,
  '--decimal': '. or ,',
  '--ambient': 'the air outside, with its unit; or --altitude',
  '--altitude': 'of the site, with its unit',
  '--lag': 'time constant of the gauge and its tube, such as 2 s',
};

/** `trace FILE.csv --family FAMILY`: figures, events, cycles and the lines that could not be read. */
export async function traceCommand(o: Options): Promise<object> {
  return traceFile(o.words[0] ?? '', o.one('family') ?? '', o);
}

export async function traceFile(path: string, family: string, o: Options): Promise<object> {
  const kind = traceKindOf(family);
  if (kind === undefined)
    no('family-unknown', `"${family}" gives no traces.`, {
      where: '--family',
      bound: tracedFamilies()
        .map((f) => f.id)
        .join(', '),
    });
  const ambient = ambientOr(o);
  const table = await readTable(path, { ambient: ambientSaid(o), said: saidOf(o) });
  const lag = o.one('lag');
  const lag_s = lag === undefined ? 0 : must(parseQuantity(lag, 'time', 's')).value;
  const a = must(analyse(table.samples, kind ?? 'cycles', ambient, undefined, lag_s));
  return {
    read: howRead(table, ambient),
    samples: a.samples,
    duration_s: a.duration_s,
    figures: Object.fromEntries(
      Object.entries(a.figures).map(([name, f]) => [
        name,
        { value: f.value, unit: f.unit, u: 2 * f.u, n: f.n },
      ]),
    ),
    events: a.events.map((e) => ({ kind: e.kind, t_s: e.t, p_Pa: e.p, u_Pa: 2 * e.u })),
    cycles: a.cycles.map((c) => ({
      cutIn_Pa: c.cutIn,
      cutOut_Pa: c.cutOut,
      on_s: c.on_s,
      off_s: c.off_s ?? null,
    })),
    problems: [
      ...table.problems,
      ...a.gaps.map((g) => ({ line: null, message: `No samples from ${g.from} to ${g.to} s.` })),
      ...(a.nothing ? [{ line: null, message: a.nothing }] : []),
    ],
  };
}

/** One of a few words; undefined where the option is not there. */
function oneOf<T extends string>(o: Options, name: string, all: readonly T[]): T | undefined {
  const text = o.one(name);
  const found = all.find((x) => x === text);
  if (text !== undefined && found === undefined)
    no('option-unknown', `--${name} knows no "${text}".`, { where: `--${name}`, bound: all.join(', ') });
  return found;
}

/** A column by its number, from 1. */
function columnOf(o: Options, name: string): number | undefined {
  const n = o.one(name) === undefined ? undefined : o.number(name, 1);
  if (n !== undefined && !(Number.isInteger(n) && n >= 1))
    no('column', `--${name} wants the number of a column, from 1.`, { where: `--${name}` });
  return n === undefined ? undefined : n - 1;
}

/** What the options say of the file's columns. */
function saidOf(o: Options): Said {
  const said = {
    time: columnOf(o, 'time'),
    pressure: columnOf(o, 'pressure'),
    unit: o.one('unit'),
    basis: oneOf(o, 'basis', BASES),
    order: oneOf(o, 'dates', ORDERS),
    timeForm: oneOf(o, 'times', FORMS),
    decimal: o.one('decimal') === undefined ? undefined : oneOf(o, 'decimal', ['.', ','] as const),
  };
  return Object.fromEntries(Object.entries(said).filter(([, v]) => v !== undefined)) as Said;
}

/** How the file was read: what was found in it, and what was taken as so without being said. */
function howRead(table: FileRead, ambient: number): object {
  const { map, heading } = table;
  const named = (i: number): object => ({ column: i + 1, name: heading[i]?.trim() ?? '' });
  const absolute = map.pressure.basis === 'absolute';
  return {
    encoding: table.encoding,
    delimiter: table.delimiter,
    header_line: map.header,
    time: {
      ...named(map.time.index),
      form: map.time.form,
      seconds: map.time.seconds,
      ...(map.time.order ? { order: map.time.order } : {}),
      ...(map.time.clock === undefined ? {} : { clock: named(map.time.clock) }),
    },
    pressure: { ...named(map.pressure.index), unit: map.pressure.unit, basis: map.pressure.basis },
    decimal: map.decimal,
    rows: table.rows,
    lost: table.lost,
    ...(absolute ? { ambient_Pa: ambient } : {}),
    assumptions: map.assumptions,
  };
}

/** Plate values good enough to run a rig on, where none were said. */
function planFor(family: Awaited<ReturnType<typeof familyNamed>>, o: Options): Plan {
  const plate: Record<string, AsTyped> = {};
  for (const text of o.all('plate')) {
    const [id = '', value = ''] = text.split('=');
    plate[id] = must(typePlate(family, id, value));
  }
  for (const p of family.plate)
    if (p.required && !plate[p.id]) {
      // The geometric middle of what it may be, or of its bounds where they are of one sign.
      const value = p.lower > 0 ? Math.sqrt(p.lower * p.upper) : (p.lower + p.upper) / 2;
      plate[p.id] = { text: String(value), unit: p.unit, value };
    }
  return makePlan(family, draftOf(family, o.one('variant') ?? '', plate));
}

/** `simulate FAMILY --seed N --seconds S --rate HZ --out FILE.csv`: a rig's trace, and what the rig knows. */
export async function simulateCommand(o: Options): Promise<object> {
  const family = await familyNamed(o.words[0]);
  const seconds = o.number('seconds', 600);
  const rate = o.number('rate', 10);
  const seed = o.number('seed', 1);
  if (!(seconds > 0 && seconds <= 1e6))
    no('seconds', 'Between 1 and 1 000 000 s are simulated.', { where: '--seconds' });
  if (!(rate > 0 && rate <= 1 / RIG_STEP_S))
    no('rate', `At most ${1 / RIG_STEP_S} samples a second are simulated.`, { where: '--rate' });
  const faults = o.all('fault');
  for (const f of faults)
    if (!family.rig.faults.some((x) => x.id === f))
      no('fault-unknown', `"${f}" is no fault of it.`, {
        where: '--fault',
        bound: family.rig.faults.map((x) => x.id).join(', '),
      });
  const named = o.one('scenario');
  const scenario =
    named === undefined ? family.rig.scenarios[0] : family.rig.scenarios.find((s) => s.id === named);
  if (!scenario)
    return no('scenario-unknown', `"${named ?? ''}" is no scenario of it.`, {
      where: '--scenario',
      bound: family.rig.scenarios.map((s) => s.id).join(', '),
    });
  const out = o.one('out');
  if (out === undefined)
    no('out-missing', 'Say where the trace goes.', { where: '--out', remedy: '--out trace.csv' });
  const rig = family.rig.create({ plan: planFor(family, o), seed, ambient: ambientOr(o), faults });
  const channels = Object.keys(rig.channels).filter((c) => c === 'contact' || c === 'pump');
  const file = createWriteStream(out ?? '');
  const write = async (line: string): Promise<void> => {
    if (!file.write(line)) await once(file, 'drain');
  };
  await write(`t_s,p_Pa${channels.map((c) => `,${c}`).join('')}\n`);
  const steps = Math.round(seconds / RIG_STEP_S);
  const every = Math.max(1, Math.round(1 / rate / RIG_STEP_S));
  let next = 0;
  const hands = [...scenario.hands].sort((a, b) => a.at_s - b.at_s);
  for (let i = 0; i <= steps; i++) {
    for (let h = hands[next]; h && h.at_s <= i * RIG_STEP_S; h = hands[++next]) rig.set(h.handle, h.value);
    if (i % every === 0)
      await write(
        `${(i * RIG_STEP_S).toFixed(2)},${rig.gauge(scenario.slot).toFixed(1)}${channels.map((c) => `,${rig.channels[c] ?? 0}`).join('')}\n`,
      );
    rig.step(RIG_STEP_S);
  }
  file.end();
  await once(file, 'finish');
  return {
    family: family.meta.id,
    scenario: scenario.id,
    seconds,
    rate_hz: 1 / (every * RIG_STEP_S),
    truth: rig.truth(),
  };
}
