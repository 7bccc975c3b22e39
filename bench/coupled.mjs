// What a screw moves beside its aim: installations whose rise, spike or differential is not the planned one, with little room above.
// Counted is how often the true value passes the relief or a rating because of an advised turn.
import { installed } from '../packages/families/dist/define/kit.js';
import { kit as air } from '../packages/families/dist/air-supply/kit.js';
import { kit as burner } from '../packages/families/dist/burner-gas/kit.js';
import { kit as reducing } from '../packages/families/dist/pilot-reducing/kit.js';
import { kit as refrigeration } from '../packages/families/dist/refrigeration-switch/kit.js';
import { kit as steam } from '../packages/families/dist/steam-control/kit.js';
import { kit as unloader } from '../packages/families/dist/washer-unloader/kit.js';
import { kit as wellSwitch } from '../packages/families/dist/well-switch/kit.js';
import { shared } from './pool.mjs';

const SEEDS = 200;
const psi = (pa) => pa / 6894.757293168361;
const BAR_PSI = 14.503773773;
const IN_PSI = 249.089 / 6894.757293168361;
/** Room above the planned value, from little to enough, in another order than the ratios. */
const roomOf = (seed, least, most) => least + (most - least) * ((seed * 0.618034) % 1);
const text = (p) => `${p.toFixed(1)} psi`;
/** True over planned: from half to twice, evenly over the seeds. */
const ratioOf = (seed, seeds) => 0.5 * 4 ** ((seed - 0.5) / seeds);

const planned = (family, kit, over) =>
  installed(
    family,
    { ...kit, plate: { ...kit.plate, ...over.plate }, given: { ...kit.given, ...over.given } },
    { ...kit.variants[0], ...over.variant },
  );

const called = (kit, name) => kit.variants.find((v) => v.name === name);

/** Each: how an installation is made whose coupled value is `ratio` times the planned one, and what must not be passed. */
const CASES = {
  'pilot-reducing': {
    kit: reducing,
    // With the second, lock-up was read before the cock was opened, and is read again.
    faults: ['set-low', 'shut-cock'],
    make(family, kit, seed, ratio) {
      const probe = planned(family, kit, {});
      const { rise } = family.rig.create({ ...probe, seed, faults: ['set-low'] }).truth();
      const rises = psi(rise) / ratio;
      const most = 52 + rises + roomOf(seed, 2.5, 9);
      const plate = { relief: text(most), weakest: '150 psi' };
      return { own: planned(family, kit, { plate, given: { rise: text(rises) } }), most };
    },
    value: (truth) => psi(truth.lockUp),
  },
  'washer-unloader': {
    kit: unloader,
    faults: ['set-low'],
    make(family, kit, seed, ratio) {
      const probe = planned(family, kit, {});
      const { spike } = family.rig.create({ ...probe, seed, faults: ['set-low'] }).truth();
      const spikes = Math.min(480, psi(spike) / ratio);
      const most = 2700 + spikes + roomOf(seed, 20, 250);
      const plate = { weakest: text(most), rating: text(Math.min(3000, most)) };
      return { own: planned(family, kit, { plate, given: { spike: text(spikes) } }), most };
    },
    value: (truth) => psi(truth.trapped),
  },
  'well-switch': {
    kit: wellSwitch,
    faults: ['drifted-switch'],
    make(family, kit, seed, ratio) {
      const wide = 20 * ratio;
      const most = roomOf(seed, 73.5, 84);
      const relief = text(most);
      const variant = { school: 'set-both', choices: { both: 'wanted' } };
      const given = { cutIn: '43 psi', cutOut: '63 psi' };
      const own = planned(family, kit, { variant, given, plate: { relief } });
      // The installation as it is: its differential is another than the planned one.
      const is = planned(family, kit, {
        variant: { ...variant, gauges: { ...kit.gauges, system: { ...kit.gauges.system, upper: 300 } } },
        given: { cutIn: '43 psi', cutOut: text(43 + wide) },
        plate: { relief: '150 psi' },
      });
      return { own, rigPlan: is.plan, most };
    },
    value: (truth) => psi(truth.cutOut),
  },
  // Found low, with another differential than planned: brought up by its range nut, the cut-out comes along.
  'air-supply': {
    kit: air,
    faults: [undefined, 'diff-narrow'],
    make(family, kit, seed, ratio) {
      const variant = called(kit, 'air supply, its switch set');
      const most = roomOf(seed, 151, 166);
      const own = planned(family, kit, { variant, plate: { relief: text(most) } });
      const is = planned(family, kit, {
        variant,
        given: { cutIn: '83 psi', cutOut: text(83 + 40 * ratio) },
        plate: { relief: '190 psi' },
      });
      return { own, rigPlan: is.plan, most };
    },
    value: (truth) => psi(truth.cutOut),
  },
  // A main pointer moves both its points: brought up for its cut-in, the cut-out comes toward the limit.
  'steam-control': {
    kit: steam,
    faults: [undefined],
    make(family, kit, seed, ratio) {
      const variant = called(kit, seed % 2 === 0 ? 'steam control, subtractive' : 'steam control, additive');
      const most = roomOf(seed, 3.4, 5);
      const own = planned(family, kit, {
        variant,
        given: { cutIn: '1 psi', cutOut: '2 psi' },
        plate: { cap: '2.5 psi', limit: `${most.toFixed(2)} psi` },
      });
      const is = planned(family, kit, {
        variant,
        given: { cutIn: '0.55 psi', cutOut: `${(0.55 + ratio).toFixed(2)} psi` },
        plate: { cap: '5 psi', limit: '15 psi' },
      });
      return { own, rigPlan: is.plan, most };
    },
    value: (truth) => psi(truth.cutOut),
  },
  // The high stop found low is raised, with little room under what the high side bears.
  'refrigeration-switch': {
    kit: refrigeration,
    faults: ['high-low'],
    make(family, kit, seed) {
      const most = roomOf(seed, 16.7, 20);
      const plate = { psHigh: `${most.toFixed(2)} bar` };
      return { own: planned(family, kit, { plate, variant: kit.variants[0] }), most: most * BAR_PSI };
    },
    value: (truth) => psi(truth.hpStop),
  },
  // What it locks up at is not where the plan thought it: the appliance screw moves it along with the manifold.
  'burner-gas': {
    kit: burner,
    faults: ['manifold-off'],
    make(family, kit, seed, ratio) {
      const probe = planned(family, kit, {});
      const { rise } = family.rig.create({ ...probe, seed, faults: [] }).truth();
      const locks = 4.2 + (psi(rise) / IN_PSI) * Math.max(1, ratio) + roomOf(seed, 0.35, 1.2);
      return {
        own: planned(family, kit, { plate: { lockMost: `${locks.toFixed(2)} inH2O` } }),
        most: locks * IN_PSI,
      };
    },
    value: (truth) => psi(truth.lockUp),
  },
};

/** @returns family → jobs, those whose true value passed its bound after an advised turn, by how much at most, and outcomes */
export async function coupledFigures(core, seeds = SEEDS) {
  const ids = Object.keys(CASES);
  const rows = await shared(
    './coupled.mjs',
    'coupledOf',
    ids.map((id) => [id, seeds]),
  );
  return Object.fromEntries(ids.map((id, i) => [id, rows[i]]));
}

export async function coupledOf(core, id, seeds) {
  const { kit, faults, make, value } = CASES[id];
  const family = await core.loadFamily(id);
  const row = { jobs: 0, past: 0, mostOver_psi: 0, outcomes: {} };
  for (let seed = 1; seed <= seeds; seed++) {
    const fault = faults[seed % faults.length];
    const { own, rigPlan, most } = make(family, kit, seed, ratioOf(seed, seeds));
    const rig = family.rig.create({
      plan: rigPlan ?? own.plan,
      ambient: own.ambient,
      seed,
      faults: fault ? [fault] : [],
      gauges: own.started.gauges,
    });
    const before = value(rig.truth());
    // What stands past its bound as found was not brought there.
    if (before > most) continue;
    let over = 0;
    const turn = rig.turn.bind(rig);
    rig.turn = (adjuster, amount) => {
      turn(adjuster, amount);
      over = Math.max(over, value(rig.truth()) - most);
    };
    const job = new core.ScriptedTechnician(family, rig, own.started).run();
    row.jobs++;
    row.offeredStopped = (row.offeredStopped ?? 0) + (job.unsafe.length > 0 ? 1 : 0);
    if (over > 0) row.past++;
    row.mostOver_psi = Math.max(row.mostOver_psi, Number(over.toFixed(1)));
    row.outcomes[job.outcome] = (row.outcomes[job.outcome] ?? 0) + 1;
  }
  return row;
}
