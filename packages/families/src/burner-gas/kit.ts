import { dial, type Kit, type Right } from '../define/kit.js';

const as = (...rights: readonly Right[]): readonly Right[] => rights;
const air = dial('N-3', 'inH2O', 5, 0.01, 1, 0.3, { kind: 'digital', medium: 'air' });

/** What such a burner has not: nothing is to be found. */
const notThere = (...faults: readonly string[]): Readonly<Record<string, readonly Right[]>> =>
  Object.fromEntries(faults.map((f) => [f, as(['left-as-found'], ['unfinished', 'no-light'])]));

/** One plausible installation, and what must be concluded on it. */
export const kit: Kit = {
  plate: {
    page: '31 page',
    ceiling: '14 inH2O',
    flowLeast: '9 inH2O',
    lockMost: '7 inH2O',
    airLeast: '0.4 inH2O',
    input: '180000 Btu/h',
    heat: '1020 Btu/ft3',
    meterTurn: '2 ft3',
  },
  given: {
    static: '11.6 inH2O',
    manifold: '4.2 inH2O',
    lowGas: '2.7 inH2O',
    highGas: '8.5 inH2O',
    airTrip: '0.55 inH2O',
    mainTrip: '1.15 inH2O',
  },
  gauges: {
    gas: dial('N-2', 'inH2O', 20, 0.1, 1, 0.5, { kind: 'digital', medium: 'any' }),
    air,
  },
  permits: ['gas', 'mains'],
  variants: [
    { name: 'burner gas, train', variant: 'train' },
    {
      name: 'burner gas, two stages, taps elsewhere',
      variant: 'train',
      choices: { stages: 'two', lowTap: 'before', highTap: 'before', lockTap: 'behind' },
      given: { lowGas: '6.5 inH2O', highGas: '13.1 inH2O' },
      // Behind the safety valves nothing shows a seat that lets by.
      concludes: {
        seat: as(['replace', 'seat'], ['left-as-found']),
        // A low-gas switch that feels the supply keeps it from lighting as that sags.
        'pipe-small': as(['left-as-found', 'droop'], ['unfinished', 'no-light']),
      },
    },
    {
      name: 'burner gas, furnace',
      variant: 'furnace',
      given: { static: '7.2 inH2O', manifold: '3.4 inH2O' },
      plate: { flowLeast: '5 inH2O' },
      concludes: {
        ...notThere(
          'seat',
          'low-dial',
          'high-dial',
          'air-dial',
          'main-dial',
          'fan-dirty',
          'welded-low',
          'welded-high',
          'loose-dial',
        ),
      },
    },
    {
      name: 'burner gas, fan leads',
      variant: 'ratio',
      concludes: { ...notThere('seat', 'vent', 'manifold-off') },
    },
    {
      name: 'burner gas, by its dials',
      variant: 'ratio',
      school: 'figure',
      // A dial is a claim: what is off behind it is not seen.
      concludes: {
        none: as(['left-as-found']),
        ...notThere(
          'seat',
          'vent',
          'manifold-off',
          'low-dial',
          'high-dial',
          'air-dial',
          'main-dial',
          'fan-dirty',
          'welded-low',
          'welded-high',
          'air-stuck',
          'loose-dial',
        ),
        'supply-high': as(['left-as-found', 'over-ceiling'], ['left-as-found']),
      },
    },
    {
      name: 'burner gas, train, new',
      variant: 'train',
      occasion: 'new',
      // Nothing was found that could be left as it was.
      concludes: {
        none: as(['set']),
        'pipe-small': as(['set', 'droop']),
        'manifold-off': as(['set'], ['unfinished', 'no-light']),
        'low-dial': as(['set']),
        'high-dial': as(['set']),
        'air-dial': as(['set']),
        'main-dial': as(['set']),
        'fan-dirty': as(['set', 'air-thin'], ['unfinished', 'no-light'], ['unfinished', 'not-made']),
        'loose-dial': as(['replace', 'dial-loose'], ['replace', 'moves'], ['set']),
        water: as(['set', 'water']),
        'port-leaks': as(['set', 'joint']),
        'zero-off': as(['set'], ['unfinished', 'gauge-unfit']),
      },
    },
    { name: 'burner gas, one input', variant: 'train', choices: { inputs: 'one' } },
    {
      name: 'burner gas, to the dial',
      variant: 'train',
      school: 'dial',
      // Its gas switches are run and set whatever was found of the rest.
      concludes: {
        none: as(['set', 'low-carried']),
        'pipe-small': as(['set', 'droop']),
        vent: as(['set', 'vent']),
        water: as(['set', 'water']),
        'low-dial': as(['set', 'low-carried'], ['unfinished', 'no-light']),
        'high-dial': as(['set', 'high-carried']),
        'fan-dirty': as(['set', 'air-thin'], ['unfinished', 'no-light'], ['unfinished', 'not-made']),
        'port-leaks': as(['set', 'joint']),
      },
    },
  ],
  concludes: {
    none: as(['left-as-found']),
    'supply-high': as(['set', 'over-ceiling'], ['set']),
    'pipe-small': as(['left-as-found', 'droop']),
    'supply-seat': as(['replace', 'supply-creeps']),
    seat: as(['replace', 'seat']),
    vent: as(['left-as-found', 'vent'], ['set', 'vent']),
    // So low that the low-gas switch keeps it from lighting.
    'manifold-off': as(['set', 'manifold-out'], ['unfinished', 'no-light']),
    // Over normal use it does not light: the dial is found all the same.
    'low-dial': as(['set', 'trip-off'], ['set', 'lights-again']),
    'high-dial': as(['set', 'trip-off']),
    'air-dial': as(['set', 'air-low']),
    'main-dial': as(['set', 'air-low']),
    'fan-dirty': as(['left-as-found', 'air-thin'], ['unfinished', 'no-light'], ['unfinished', 'not-made']),
    'welded-low': as(['replace', 'welded']),
    'welded-high': as(['replace', 'welded']),
    'air-stuck': as(['replace', 'air-stuck']),
    // One trip as found does not show it.
    'loose-dial': as(
      ['replace', 'dial-loose'],
      ['replace', 'moves'],
      ['left-as-found'],
      ['set'],
      ['unfinished', 'not-made'],
    ),
    water: as(['left-as-found', 'water']),
    'port-leaks': as(['left-as-found', 'joint']),
    'gas-about': as(['unfinished', 'leak']),
    'burns-badly': as(['unfinished', 'co']),
    'zero-off': as(
      ['left-as-found', 'gauge-zero'],
      ['unfinished', 'gauge-unfit'],
      ['left-as-found', 'gauge-unfit'],
      ['left-as-found'],
      ['set'],
    ),
  },
  seldom: [{ fault: 'vent', says: { 'clear-manifold': 'slow' } }],
  practice: {
    lines: {
      none: 'It lights and burns. The yearly look.',
      'supply-high': 'The street regulator was renewed in autumn.',
      'pipe-small': 'With both burners on it grumbles.',
      'supply-seat': 'In the morning the first light is rough.',
      seat: 'When it goes off it pops.',
      vent: 'The pressure swings slowly, on windy days above all.',
      'manifold-off': 'Somebody has set it "by the flame".',
      'low-dial': 'It locks out at full fire for no reason.',
      'high-dial': 'It has tripped on lighting since the service.',
      'air-dial': 'It goes out when the door to the yard is opened.',
      'main-dial': 'It will not prove its air on cold mornings.',
      'fan-dirty': 'The mill next door fills everything with dust.',
      'welded-low': 'The gas was off for a day; it did not complain.',
      'welded-high': 'They ran it on the wrong regulator for a week.',
      'air-stuck': 'It shows air before the fan turns.',
      'loose-dial': 'It trips at another place every time.',
      water: 'There was water in the gas cellar.',
      'port-leaks': 'There is a whiff where the hose was screwed on last time.',
      'gas-about': 'It smells of gas in the corridor.',
      'burns-badly': 'The flame is yellow, and the room is stuffy.',
      'zero-off': 'The manometer lay in the sun on the dashboard.',
    },
    hurts: [
      { deed: 'ports', to: [1], while: { cock: [1] }, text: 'The ports were opened with the gas on.' },
      ...['lowDial', 'highDial', 'airDial', 'mainDial'].map((deed) => ({
        deed,
        while: { power: [1] },
        text: 'A dial was turned beside live parts: the power was on.',
      })),
    ],
    pairs: [
      ['sniff', 'ports', 3],
      ['soap', 'found-static', 3],
    ],
  },
  truths: ({ truth, view }) =>
    Object.fromEntries(
      ['static', 'manifold', 'lowGas', 'highGas', 'airTrip', 'mainTrip']
        .filter((x) => view.plan.values[x] !== undefined)
        .map((x) => [x, truth[x]]),
    ),
  trace: { figures: { flowing: ['manifold', 0.02], lockUp: ['lockUp', 0.02] } },
};
