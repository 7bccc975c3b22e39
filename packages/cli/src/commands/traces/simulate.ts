import { draftOf, makePlan, typePlate } from '@firm-needle/core/family';
import type { AsTyped, Plan } from '@firm-needle/core/procedure';
import { RIG_STEP_S } from '@firm-needle/core/rig';
import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { must, no } from '../../answer.js';
import { ambientOr, type Options } from '../../options.js';
import { familyNamed } from '../plans.js';
import { unwritable } from './written.js';

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
  const steps = Math.round(seconds / RIG_STEP_S);
  const every = Math.max(1, Math.round(1 / rate / RIG_STEP_S));
  const hands = [...scenario.hands].sort((a, b) => a.at_s - b.at_s);
  const lines = function* (): Generator<string> {
    yield `t_s,p_Pa${channels.map((c) => `,${c}`).join('')}\n`;
    let next = 0;
    for (let i = 0; i <= steps; i++) {
      for (let h = hands[next]; h && h.at_s <= i * RIG_STEP_S; h = hands[++next]) rig.set(h.handle, h.value);
      if (i % every === 0)
        yield `${(i * RIG_STEP_S).toFixed(2)},${rig.gauge(scenario.slot).toFixed(1)}${channels.map((c) => `,${rig.channels[c] ?? 0}`).join('')}\n`;
      rig.step(RIG_STEP_S);
    }
  };
  await pipeline(lines, createWriteStream(out ?? '')).catch((e: unknown) =>
    unwritable(out ?? '', '--out', e),
  );
  return {
    family: family.meta.id,
    scenario: scenario.id,
    seconds,
    rate_hz: 1 / (every * RIG_STEP_S),
    truth: rig.truth(),
  };
}
