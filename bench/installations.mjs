// One plausible installation of every kind of control, for the figures: its plate, its plan, its gauges.

const dial = (label, unit, upper, division, readable, accuracy, over = {}) => ({
  id: label,
  label,
  kind: 'bourdon',
  unit,
  lower: 0,
  upper,
  division,
  readable,
  accuracy:
    typeof accuracy === 'number'
      ? { standard: 'stated', percentOfSpan: accuracy }
      : { standard: 'B40.100', grade: accuracy },
  ...over,
});
const HIGH_SIDE = dial('T-3', 'psi', 500, 5, 0.5, '1A');
const DRAUGHT = dial('T-4', 'inH2O', 20, 0.5, 0.5, '1A');

const INSTALLATIONS = {
  'well-switch': {
    plate: { tankVolume: '280 L', pumpFlow: '33 L/min', relief: '81 psi' },
    given: { cutIn: '43 psi' },
    gauges: { system: dial('T-1', 'psi', 100, 1, 0.5, '2A'), air: dial('T-2', 'psi', 60, 0.5, 0.5, '2A') },
    variants: [{ name: 'well switch' }],
    concludes: {
      none: [['left-as-found']],
      'low-precharge': [
        ['set', 'precharge-low'],
        ['set', 'charged-as-drive'],
      ],
      'ruptured-bladder': [['replace', 'ruptured-bladder']],
      'drifted-switch': [['set']],
      'narrowed-differential': [['replace', 'differential-narrowed']],
      'blocked-tube': [
        ['replace', 'unrepeatable'],
        ['replace', 'does-not-stop'],
      ],
      'welded-contacts': [['replace', 'does-not-stop']],
      'low-well': [['left-as-found', 'below-cut-out']],
      'leaking-check-valve': [['left-as-found', 'falls-at-rest']],
      'gauge-zero-off': [['left-as-found', 'gauge-zero']],
    },
    permits: ['mains'],
    /** Settings whose truth the rig tells under the same name. */
    truths: (job) => Object.fromEntries(['cutIn', 'cutOut', 'precharge'].map((s) => [s, job.truth[s]])),
  },
  'spa-flow-switch': {
    gauges: {},
    variants: [
      { name: 'spa switch, two speeds', variant: 'two-speed' },
      {
        name: 'spa switch, one speed',
        variant: 'one-speed',
        // There is a place at which it opens in time.
        concludes: { 'slow-decay': [['set']] },
      },
      {
        name: 'spa switch, first place that works',
        variant: 'two-speed',
        school: 'first',
        concludes: { none: [['left-as-found']] },
      },
    ],
    concludes: {
      // Without a fault it is set to the middle of its window.
      none: [['set']],
      'dirty-filter': [['set', 'was-filter']],
      'shut-valve': [['set', 'was-valve']],
      'air-lock': [['set', 'was-air']],
      'stuck-closed': [['replace', 'stuck-closed']],
      'drifted-high': [['set']],
      'drifted-low': [['set']],
      'slow-decay': [['replace', 'opens-late']],
    },
    permits: ['mains'],
    // The wheel must stand between the edges; its margin is the nearer one's distance.
    truths: ({ truth }) => ({
      margin: Math.min(truth.closes - truth.wheel, truth.wheel - truth.opens) + 1,
    }),
  },
  'washer-unloader': {
    plate: { rating: '3000 psi', flow: '4 gpm', nozzle: '4.5 gpm', weakest: '4200 psi', hose: '50 ft' },
    given: { head: '2700 psi' },
    gauges: { test: dial('T-5', 'psi', 5000, 50, 0.5, '1A') },
    variants: [
      { name: 'unloader, gauge at the head', variant: 'at-head' },
      { name: 'unloader, gauge at the gun', variant: 'at-gun' },
    ],
    concludes: {
      none: [['left-as-found']],
      'set-low': [['set']],
      'worn-nozzle': [['replace', 'full-travel-low']],
      'slipping-belt': [['replace', 'full-travel-low']],
      'air-in-inlet': [['replace', 'air-inlet']],
      'leaking-check': [['replace', 'check-leaks']],
      'sticking-piston': [['replace', 'spike-large']],
      'wrong-spring': [['replace', 'spring']],
    },
    permits: [],
    truths: ({ truth }) => ({ working: truth.working, spike: truth.spike }),
  },
  'pilot-reducing': {
    plate: { size: '3 in', supply: '88 psi', leastFlow: '30 gpm', relief: '75 psi', weakest: '150 psi' },
    given: { flowing: '52 psi' },
    gauges: { outlet: dial('T-6', 'psi', 100, 0.5, 0.5, '2A'), inlet: dial('T-7', 'psi', 160, 1, 0.5, '2A') },
    variants: [{ name: 'reducing valve', variant: 'steel' }],
    concludes: {
      none: [['left-as-found']],
      'set-low': [['set']],
      'trapped-air': [['left-as-found', 'was-air']],
      'low-flow': [['left-as-found', 'was-flow']],
      'shut-cock': [['set', 'was-cock']],
      'blocked-strainer': [['set', 'was-strainer']],
      'torn-diaphragm': [['replace', 'diaphragm']],
      'seat-debris': [['replace', 'seat-leaks']],
    },
    permits: [],
    truths: ({ truth }) => ({ flowing: truth.flowing, rise: truth.rise }),
  },
  'fire-relief': {
    plate: {
      churn: '128 psi',
      suctionMost: '24 psi',
      suctionLeast: '10 psi',
      rating: '175 psi',
      perTurn: '27 psi',
      springLeast: '20 psi',
      springMost: '200 psi',
      speed: '2100 rpm',
    },
    gauges: {
      system: dial('T-8', 'psi', 300, 1, 0.5, '3A'),
      suction: dial('T-9', 'psi', 60, 0.5, 0.5, '2A'),
    },
    variants: [
      {
        name: 'fire relief, electric',
        variant: 'electric',
        // A motor of one speed has no governor to run away.
        concludes: { overspeed: [['left-as-found']] },
      },
      { name: 'fire relief, diesel', variant: 'diesel' },
      { name: 'fire relief, variable speed', variant: 'variable' },
    ],
    concludes: {
      none: [['left-as-found']],
      'small-margin': [['set', 'margin-small']],
      'set-low': [['set', 'ran-at-churn']],
      'set-high': [['set', 'above-rating']],
      'seat-debris': [['replace', 'seat-leaks']],
      'wrong-spring': [['replace', 'wrong-spring']],
      'blocked-sensing': [['left-as-found', 'was-sensing']],
      'spring-end': [['replace', 'spring-end']],
      overspeed: [['replace', 'overspeed']],
      'gauge-on-cover': [['left-as-found', 'was-cover']],
    },
    permits: ['fire'],
    truths: ({ truth, view }) => ({
      opening: truth.opening,
      margin: truth.opening - truth.net - view.plan.plate.suctionMost.value,
    }),
  },
  'well-drive': {
    plate: { tankVolume: '9 L', relief: '88 psi', drop: '6 psi', most: '85 psi', least: '25 psi' },
    given: { setPoint: '64 psi' },
    gauges: { system: dial('T-1', 'psi', 100, 1, 0.5, '2A'), air: dial('T-2', 'psi', 60, 0.5, 0.5, '2A') },
    variants: [{ name: 'pump drive', variant: 'first' }],
    concludes: {
      none: [['left-as-found']],
      'set-low': [['set']],
      'low-precharge': [['set', 'waterlogged']],
      'charged-as-switch': [['set', 'charged-as-switch']],
      'ruptured-bladder': [['replace', 'ruptured-bladder']],
      'sensor-offset': [['replace', 'sensor-off']],
      leak: [['left-as-found', 'never-sleeps']],
      'air-in-line': [['left-as-found', 'was-air']],
      'high-gain': [['replace', 'hunts']],
      'low-well': [['left-as-found', 'outrun']],
    },
    permits: ['mains'],
    truths: ({ truth }) => ({ setPoint: truth.setPoint, precharge: truth.precharge, wake: truth.wake }),
  },
  'gauge-check': {
    gauges: {
      test: HIGH_SIDE,
      reference: dial('R-1', 'psi', 600, 0.1, 1, 0.1, { kind: 'digital' }),
      thermometer: dial('K-1', 'degF', 220, 0.1, 1, 0.35, { kind: 'thermometer', lower: -40 }),
    },
    variants: [
      { name: 'zero', variant: 'zero' },
      { name: 'R-410A', variant: 'span-r410a' },
      { name: 'R-410A, set at span', variant: 'span-r410a', school: 'set-at-span' },
      { name: 'better gauge', variant: 'comparison' },
      {
        name: 'water column',
        variant: 'column',
        gauges: {
          test: DRAUGHT,
          reference: dial('U-1', 'inH2O', 24, 0.1, 0.5, 0.1, { kind: 'u-tube', column_C: 20 }),
        },
      },
    ],
    permits: [],
    truths: (job) => {
      const shown = job.view.figure('span', 'found');
      // A needle set at the span pressure carries its error in its zero from then on.
      const moved =
        job.outcome === 'restricted' && job.view.plan.school === 'set-at-span' ? job.truth.zero : 0;
      return shown ? { error: job.truth.slope * shown.value + moved } : {};
    },
  },
};

/** Every installation with its variants, by family. */
export const installed = () => Object.entries(INSTALLATIONS);

/** A family with a plan, a started job and the ambient pressure of one of its installations. */
export async function installation(core, id, variant = INSTALLATIONS[id].variants[0]) {
  const family = await core.loadFamily(id);
  const kind = INSTALLATIONS[id];
  const gauges = { ...kind.gauges, ...variant.gauges };
  const typed = Object.entries(kind.plate ?? {}).map(([p, text]) => [
    p,
    core.expectOk(core.typePlate(family, p, text)),
  ]);
  const plate = { ...(gauges.test ? family.plateOf?.(gauges.test) : {}), ...Object.fromEntries(typed) };
  let draft = core.draftOf(family, variant.variant ?? family.variants[0].id, plate);
  for (const [s, text] of Object.entries(kind.given ?? {}))
    draft = core.give(draft, s, core.expectOk(core.typeSetting(family, s, text)));
  const plan = core.makePlan(family, { ...draft, school: variant.school ?? draft.school });
  const started = core.expectOk(
    core.startJob(family, {
      plan,
      site: { id: 's', name: 'Bench', altitude_m: 300 },
      control: { id: 'c', name: 'Bench', equipment: 'Bench' },
      technician: 'Bench',
      permits: kind.permits,
      gauges,
      rule: 'guarded',
    }),
  );
  return { family, plan, started, ambient: core.expectOk(core.ambientAt(300)) };
}
