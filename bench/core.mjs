// The core's own figures: rig, fold, conversions and verdicts, and the scripted technician over hidden faults.

import { installation } from './installations.mjs';
import { round, technicianFigures } from './technician.mjs';

const time = (work) => {
  const from = performance.now();
  work();
  return performance.now() - from;
};
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

export async function coreFigures(core) {
  const { family, plan, started, ambient } = await installation(core, 'well-switch');
  return {
    rig: rigFigures(core, family, plan, ambient),
    fold: foldFigures(core, family, started),
    conversions: unitFigures(core),
    verdicts: verdictFigures(core, started),
    technician: await technicianFigures(),
  };
}

function rigFigures(core, family, plan, ambient) {
  const rig = family.rig.create({ plan, seed: 1, ambient, faults: [] });
  rig.set('gauge', 1);
  rig.set('tap', 0.5);
  core.runRig(rig, 2000, 'system');
  const seconds = 40000;
  const ms = time(() => core.runRig(rig, seconds, 'system', 0.05, () => undefined));
  return {
    simulated_s: seconds,
    step_s: core.RIG_STEP_S,
    sampled_hz: 20,
    ms: round(ms),
    simulatedPerWall: Math.round(seconds / (ms / 1000)),
    bound: '>= 5000',
  };
}

/** A job of n events: the shape of a long day, all legal. */
function longLog(core, started, n) {
  const events = [];
  const add = (body) =>
    events.push({
      id: `e${events.length}`,
      job: 'j',
      version: core.PAYLOAD_VERSION,
      after: null,
      device: 'd',
      author: 'a',
      wall: new Date(Date.UTC(2030, 0, 1) + events.length * 1000).toISOString(),
      mono: events.length,
      body,
    });
  add(started);
  const psi = core.toCanonical(1, 'psi');
  for (let i = 1; events.length < n; i++) {
    const at = {
      key: i % 2 ? 'found-cut-in' : 'found-cut-out',
      pass: `1.${Math.ceil(i / 2)}`,
      phase: 'found',
    };
    if (i % 5 === 0)
      add({ kind: 'done', at: { key: 'cautions', pass: '1' }, sets: { power: i % 10 ? 'on' : 'off' } });
    else
      add({
        kind: 'read',
        setting: i % 2 ? 'cutIn' : 'cutOut',
        slot: 'system',
        value: { text: '43', unit: 'psi', value: (i % 2 ? 43 : 63) * psi },
        state: 'typed',
        at,
      });
  }
  return events;
}

function foldFigures(core, family, started) {
  const events = longLog(core, started, 10000);
  core.fold('j', events.slice(0, 2000));
  const cold = median(Array.from({ length: 7 }, () => time(() => core.fold('j', events))));
  const log = new core.JobLog('j', events.slice(0, 9000));
  const appended = time(() => events.slice(9000).forEach((e) => log.append(e))) / 1000;
  const view = median(
    Array.from({ length: 5 }, () => time(() => core.sheetOf(family, new core.FoldedJob(family, log.state)))),
  );
  return {
    events: events.length,
    cold_ms: round(cold),
    coldBound_ms: 50,
    perAppend_ms: round(appended),
    appendBound_ms: 0.2,
    sheet_ms: round(view),
  };
}

function unitFigures(core) {
  const n = 1e6;
  let sum = 0;
  const bare = time(() => {
    for (let i = 0; i < n; i++) sum += i * 6894.757293168361;
  });
  const ours = time(() => {
    for (let i = 0; i < n; i++) sum += core.toCanonical(i, 'psi');
  });
  return {
    count: n,
    ns: round((ours / n) * 1e6),
    bareMultiplication_ns: round((bare / n) * 1e6),
    ratio: round(ours / bare),
    sum: sum > 0,
  };
}

function verdictFigures(core, started) {
  const n = 1e5;
  const gauge = started.gauges.system;
  const psi = core.toCanonical(1, 'psi');
  const zero = { offset: 0, drift: 0, fit: true, because: '' };
  let near = 0;
  const ms = time(() => {
    for (let i = 0; i < n; i++) {
      const value = (40 + (i % 60) / 10) * psi;
      const { U } = core.readingBudget({
        gauge,
        zero,
        readings: [value, value],
        repeatability: { sd: 0.3 * psi, dof: 20 },
      });
      if (
        core.decide(value, U, { lower: 41.5 * psi, upper: 44.5 * psi }, 'guarded', (v) => `${v}`).word ===
        'near'
      )
        near++;
    }
  });
  return { count: n, ns: round((ms / n) * 1e6), near };
}
