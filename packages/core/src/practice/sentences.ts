import { fromCanonical, showWithUnit } from '../quantity/index.js';
import { outcomesOf } from '../family/index.js';
import type { FoldedJob, Outcome } from '../procedure/index.js';
import type { Act } from './harm.js';
import type { DebriefLine, Met, PartId } from './debrief.js';
import type { Draw, Exercise, RunRecord } from './run.js';
import { sayPa, type Conclusion, type Early } from './scores.js';

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
const list = (all: readonly string[]): string =>
  all.length < 2 ? (all[0] ?? '') : `${all.slice(0, -1).join(', ')} and ${all.at(-1)}`;
const faultSaid = (ex: Exercise, id: string): string =>
  lower(ex.family.rig.faults.find((f) => f.id === id)?.title ?? id);

/** What was wrong, what was signed, and whether somebody could have been hurt. */
function sentence(
  ex: Exercise,
  draw: Draw,
  record: RunRecord,
  outcome: Outcome | undefined,
  { hits, missed }: Conclusion,
  met: readonly Met[],
): string {
  if (record.hurt) return `${record.hurt.text} Stopped there: somebody could have been hurt.`;
  const wrong =
    draw.faults.length === 0
      ? 'Nothing was wrong.'
      : `Hidden here: ${list(draw.faults.map((f) => faultSaid(ex, f)))}.`;
  const ended = outcome && outcomesOf(ex.family).find(([c]) => c === outcome)?.[1];
  const signed = ended ? `You signed “${lower(ended)}”` : 'You left before anything was signed';
  const unknowable = met.filter((m) => m.how === 'not knowable').map((m) => faultSaid(ex, m.shown.fault));
  const about = [
    ...(hits.length > 0 ? [`found ${list(hits.map((f) => faultSaid(ex, f)))}`] : []),
    ...(missed.length > 0
      ? [`${list(missed.map((f) => faultSaid(ex, f)))} you passed by, though it could be told`]
      : []),
    ...(unknowable.length > 0 ? [`${list(unknowable)} could not be told with this gauge`] : []),
    ...(draw.faults.length === 0 && (record.said?.faults.length ?? 0) > 0
      ? [`what you named, ${list((record.said?.faults ?? []).map((f) => faultSaid(ex, f)))}, was not there`]
      : []),
  ];
  return `${wrong} ${signed}${about.length > 0 ? `; ${about.join('; ')}` : ''}.`;
}

/** What was so: the faults, the gauges, the settings as they were left. */
function truth(
  ex: Exercise,
  draw: Draw,
  view: FoldedJob,
  is: Readonly<Record<string, number>>,
): readonly string[] {
  const out: string[] = [];
  out.push(
    draw.faults.length === 0
      ? 'No fault was hidden.'
      : `${list(draw.faults.map((f) => ex.family.rig.faults.find((x) => x.id === f)?.title ?? f))}${draw.size === 1 ? '' : `, ${draw.size} times the usual size`}.`,
  );
  for (const [slot, worn] of Object.entries(draw.worn)) {
    const gauge = ex.started.gauges[slot];
    if (!gauge) continue;
    const parts = [
      `its zero ${sayPa(worn.zero, gauge.unit)} off beside its class`,
      ...(worn.slope === 0 ? [] : [`${(100 * worn.slope).toFixed(1)} % of what it reads too much`]),
      ...(worn.sticks === 0 ? [] : [`it sticks by ${sayPa(2 * worn.sticks, gauge.unit)}`]),
    ];
    out.push(`${gauge.label}: ${parts.join(', ')}.`.replace(/ -(?=\d)/g, ' −'));
  }
  for (const [setting, value] of Object.entries(ex.kit.truths({ truth: is, view }))) {
    if (value === undefined || !Number.isFinite(value)) continue;
    const def = view.setting(setting);
    const read = view.figure(setting, 'left') ?? view.figure(setting, 'found');
    const told = showWithUnit(value, { unit: view.unitOf(setting), step: view.step(setting) });
    out.push(
      `${def.title}: truly ${told}${read ? `, recorded ${view.say(read.value, setting)}` : ', not recorded'}.`,
    );
  }
  return out;
}

const early = (ex: Exercise, { title, taken, settled }: Early): string =>
  `${title}: taken at ${taken.text} ${taken.unit}${Number.isFinite(settled) ? `, it settled at ${fromCanonical(settled, taken.unit).toFixed(1)}` : ''}.`;

/** What each part asks for, where most was lost in it. */
const ADVICE: Readonly<Record<PartId, string>> = {
  conclusion: 'Read off what the needle says before you name what is wrong.',
  order: 'Keep the order of work: what comes first is there so that the next reading is true.',
  adjusting: 'Turn less often: read, reckon what one turn does, and turn once.',
  readings: 'Wait until the needle stands: half of what went wrong began with an early reading.',
  highest: 'Stop it in time: a hand stays on the switch while it rises.',
  verdicts: 'Hold the figure with its ± against the limits.',
  time: 'Keep your hands going: what is waited for is not counted.',
};

/** One thing next: the gravest act, what was missed, or where most was lost. */
function next(
  ex: Exercise,
  lines: readonly DebriefLine[],
  acts: readonly Act[],
  met: readonly Met[],
  broken: readonly string[],
): { readonly text: string; readonly lesson?: string } {
  const grave = acts.find((a) => a.severity === 3);
  const missed = met.find((m) => m.how === 'not taken' || m.how === 'taken, not believed');
  if (missed) {
    const { shown } = missed;
    const where =
      missed.how === 'not taken'
        ? `${shown.title ?? 'The step that shows it'} was never taken.`
        : `At ${lower(shown.title ?? 'the step')} it read ${shown.with ?? 'otherwise'}, and that was not believed.`;
    return { text: where, lesson: shown.fault };
  }
  if (grave) return { text: grave.text };
  const losses = lines
    .filter((l) => !l.given && l.score !== undefined)
    .map((l) => ({ l, loss: 100 - (l.score ?? 100) }))
    .sort((a, b) => b.loss - a.loss);
  const [most] = losses;
  if (!most || most.loss < 5)
    return { text: acts[0]?.text ?? 'Nothing was lost worth a word. A harder level, or less help.' };
  const [first] = broken;
  if (most.l.id === 'order' && first) return { text: `${first.charAt(0).toUpperCase()}${first.slice(1)}.` };
  return { text: ADVICE[most.l.id] };
}

export const said = { sentence, truth, early, next, fault: faultSaid };
