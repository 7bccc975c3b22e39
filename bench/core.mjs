// The core's own figures: rig, fold, conversions and verdicts, and the scripted technician over hidden faults.

const time = (work) => {
  const from = performance.now();
  work();
  return performance.now() - from;
};
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const round = (x, digits = 3) => Number(x.toPrecision(digits));

function setup(core, family) {
  const typed = (id, text) => core.expectOk(core.typePlate(family, id, text));
  const plate = {
    tankVolume: typed('tankVolume', '280 L'),
    pumpFlow: typed('pumpFlow', '33 L/min'),
    relief: typed('relief', '81 psi'),
  };
  const draft = core.give(
    core.draftOf(family, family.variants[0].id, plate),
    'cutIn',
    core.expectOk(core.typeSetting(family, 'cutIn', '43 psi')),
  );
  const plan = core.makePlan(family, draft);
  const gauge = (label, upper, division, readable, grade) => ({
    id: label,
    label,
    kind: 'bourdon',
    unit: 'psi',
    lower: 0,
    upper,
    division,
    readable,
    accuracy: { standard: 'B40.100', grade },
  });
  const started = core.expectOk(
    core.startJob(family, {
      plan,
      site: { id: 's', name: 'Bench', altitude_m: 300 },
      control: { id: 'c', name: 'Bench', equipment: 'Bench' },
      technician: 'Bench',
      permits: ['mains'],
      gauges: { system: gauge('T-1', 100, 1, 0.5, '2A'), air: gauge('T-2', 60, 0.5, 0.5, '2A') },
      rule: 'guarded',
    }),
  );
  return { plan, started, ambient: core.expectOk(core.ambientAt(300)) };
}

export async function coreFigures(core) {
  const family = await core.loadFamily('well-switch');
  const { plan, started, ambient } = setup(core, family);
  return {
    rig: rigFigures(core, family, plan, ambient),
    fold: foldFigures(core, family, started),
    conversions: unitFigures(core),
    verdicts: verdictFigures(core, started),
    technician: technicianFigures(core, family, plan, started, ambient),
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
    Array.from({ length: 5 }, () => time(() => core.sheetOf(family, new core.JobView(family, log.state)))),
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

/** Fault × what the product concluded, over seeds; and acts that must never happen. */
function technicianFigures(core, family, plan, started, ambient) {
  const seeds = 50;
  const table = {};
  let unsafe = 0;
  let inWhileOut = 0;
  let adjustments = 0;
  let set = 0;
  for (const fault of ['none', ...family.rig.faults.map((f) => f.id)]) {
    const outcomes = {};
    for (let seed = 1; seed <= seeds; seed++) {
      const rig = family.rig.create({ plan, seed, ambient, faults: fault === 'none' ? [] : [fault] });
      const job = new core.ScriptedTechnician(family, rig, started).run();
      outcomes[job.outcome] = (outcomes[job.outcome] ?? 0) + 1;
      unsafe += job.unsafe.length;
      if (fault === 'drifted-switch' && job.outcome === 'set') {
        adjustments += job.adjustments;
        set++;
      }
      for (const s of ['cutIn', 'cutOut', 'precharge']) {
        const { lower, upper } = plan.limits[s];
        if (job.view.verdict(s, 'left')?.word === 'in' && (job.truth[s] < lower || job.truth[s] > upper))
          inWhileOut++;
      }
    }
    table[fault] = outcomes;
  }
  return {
    seeds,
    outcomes: table,
    unsafeActs: unsafe,
    inWhileTruthOut: inWhileOut,
    meanTurnsToSetADriftedSwitch: round(adjustments / Math.max(1, set)),
  };
}
