import type { Plan } from '@firm-needle/core/procedure';
import { two } from '@firm-needle/core/rig';
import { defineParts } from '../define/index.js';
import { inches, psi } from '../shared/units.js';

export { inches, psi };

/** Draws of one setting farther apart than this are of a poppet that sticks, where the plate does not say [assumed]. */
export const SPREAD_MOST = inches(0.2);
/** What the gauges of this work can be off; nothing is brought nearer to what it must not reach [assumed]. */
export const OFF = psi(2);
/** No second stage is asked for more suction than this on a bench, Pa [assumed]. */
export const EFFORT_MOST = inches(8);
/** Draws: as found, and as left after anything was turned [common practice, no source]. */
export const DRAWS = { found: 3, left: 5, doubt: 8 } as const;
/** Only what moved the orifice farther than this has the lever looked at again, in turns [common practice, no source]. */
export const LEVER_AFTER = 1 / 8;

type Kind = Pick<Plan, 'variant'>;
/** Its orifice cannot be turned: effort comes from spring and parts. */
export const isFixed = ({ variant }: Kind): boolean => variant === 'fixed';

export const parts = defineParts({
  links: {
    first: {
      title: 'First stage it hangs on',
      kinds: ['breathing-first-stage'],
      gives: { first: 'ipFull' },
      fits: ({ variant }) => variant !== 'cylinder-gas',
    },
  },
  plate: {
    effortLeast: {
      title: 'Opens at, least',
      unit: 'inH2O',
      from: 0.3,
      to: 4,
      required: true,
      hint: 'the maker’s range',
    },
    effortMost: { title: 'Opens at, most', unit: 'inH2O', from: 0.3, to: 4, required: true },
    ipLeast: { title: 'Intermediate pressure, least', unit: 'psi', from: 80, to: 250, required: true },
    ipMost: { title: 'Intermediate pressure, most', unit: 'psi', from: 80, to: 250, required: true },
    first: { title: 'Its first stage is planned at', unit: 'psi', from: 80, to: 250 },
    relief: {
      title: 'Relief in the line',
      unit: 'psi',
      from: 120,
      to: 290,
      required: true,
      hint: 'not the valve that is turned',
    },
    spreadMost: { title: 'Draws apart, most', unit: 'inH2O', from: 0.05, to: 0.5 },
    oxygen: { title: 'Richest gas it ever met', unit: '%', from: 20, to: 100 },
  },
  slots: {
    suction: { title: 'Low-range suction gauge, with its shut-off', medium: 'air' },
    ip: { title: 'Gauge on the hose, with its bleed', medium: 'air' },
  },
  settings: {
    effort: {
      title: 'Opens at a suction of',
      short: 'opens',
      slot: 'suction',
      unit: 'inH2O',
      from: 0.1,
      to: 8,
      catch: 'peak',
      caught: 0.02,
      cycles: 3,
      sd: 0.05,
      dof: 10,
      step: 0.05,
      givable: true,
      traced: 'cracking',
    },
    ip: { title: 'Intermediate pressure', short: 'ip', slot: 'ip', from: 20, to: 290, sd: 0.4, dof: 10 },
  },
  screws: {
    orifice: {
      title: 'Orifice',
      ways: ['clockwise, in', 'counter-clockwise, out'],
      seenFrom: 'seen from the hose end',
      tool: 'in-line tool',
      // No general figure, 0.3 to 1.0 [reckoned]: probed by eighths.
      perTurn: 0.6,
      spread: 0.6,
      backlash: 0.03,
      moves: { effort: [1, 0] },
      step: 1 / 16,
      largest: 1 / 4,
      underPressure: true,
    },
    nut: {
      title: 'Lever nut',
      ways: ['clockwise, lever up', 'counter-clockwise, lever down'],
      seenFrom: 'seen from its end',
      tool: 'small wrench, the stem held',
      perTurn: 1,
      spread: 0.5,
      // It is set by the hiss, not by what is drawn; what was drawn before it moved is no more.
      moves: { effort: [0, 1] },
      aims: [],
      step: 1 / 12,
      largest: 2,
      underPressure: true,
    },
  },
  cautions: {
    life: {
      title: 'Someone breathes from this',
      text: 'For people trained and authorised by its maker. Not under water until all of it is proved.',
    },
    relief: {
      title: 'What relieves the line?',
      text: 'Not the valve that is being turned. Something else that opens.',
    },
    slow: { title: 'Open slowly', text: 'Slowly, face aside.' },
    'low-range': {
      title: 'The low-range gauge',
      text: 'No purge, no breath into it, no supply opened while the suction gauge is on: it is hurt for good.',
    },
    seat: { title: 'Purge held', text: 'Purge held before the orifice moves, or its edge cuts the seat.' },
    tool: {
      title: 'In-line tool',
      text: 'Not fully home where the manual says so: no room is left to back off.',
    },
    dead: {
      title: 'Bled before it comes off',
      text: 'Hose and tool come off only when a purge gives nothing.',
    },
    ears: { title: 'Eyes and ears', text: 'Both protected while it is purged.' },
    oxygen: { title: 'Oxygen over 22 %', text: 'Clean bench, clean gas, listed parts, no oil.' },
    health: { title: 'Mouthpiece', text: 'Disinfected before and after; a mouth only through one’s own.' },
    manual: { title: 'The maker’s word comes first', text: 'Where the manual says otherwise, it wins.' },
  },
  handles: {
    supply: { title: 'Supply', positions: two('Shut', 'Open') },
    bleed: { title: 'Bleed', positions: two('Shut', 'Open') },
    relief: { title: 'Relief in the line', positions: two('None', 'In') },
    shutoff: { title: 'Suction gauge', positions: two('Shut off', 'On') },
    purge: {
      title: 'Purge',
      positions: [
        { title: 'Let go', value: 0 },
        { title: 'Once', value: 1 },
        { title: 'Four times', value: 4 },
        { title: 'Ten times', value: 10 },
      ],
    },
    thumb: { title: 'Thumb', positions: two('Off the purge', 'Holds the purge') },
    draw: {
      title: 'Draw',
      positions: [
        ...two('None', 'Slowly, until it opens'),
        { title: 'To the least, and shut off', value: 2 },
      ],
    },
    side: { title: 'Its side', positions: two('Closed', 'Open') },
    case: { title: 'Case', positions: two('As found', 'Seen to') },
    tool: { title: 'In-line tool', positions: two('Out', 'In') },
  },
  facts: {
    cautions: {
      read: {
        title: 'Cautions read',
        say: 'Read the cautions again before going on.',
        cautions: ['life', 'relief', 'low-range', 'seat', 'dead', 'manual'],
      },
    },
    relief: {
      inline: {
        title: 'Relief in the line',
        say: 'Screw a relief into the line.',
        cautions: ['relief'],
        hands: { relief: 1 },
      },
    },
    gauge: {
      on: {
        title: 'Suction gauge on',
        say: 'Knob out, vane at minus. Suction gauge on; no purge, no breath out from here.',
        cautions: ['low-range'],
        hands: { purge: 0, thumb: 0, shutoff: 1 },
      },
      off: {
        title: 'Suction gauge off',
        say: 'Shut the suction gauge off.',
        cautions: ['low-range'],
        hands: { draw: 0, shutoff: 0 },
      },
    },
    line: {
      closed: { title: 'Bleed shut', say: 'Shut the bleed.', hands: { bleed: 0 } },
      bled: {
        title: 'Shut and bled',
        say: 'Suction gauge off first. Supply shut, purge until nothing comes.',
        cautions: ['low-range', 'dead'],
        hands: { draw: 0, shutoff: 0, supply: 0, bleed: 1 },
      },
    },
    supply: {
      on: {
        title: 'Supply on',
        say: 'Suction gauge off, bleed shut. Face aside, open slowly.',
        cautions: ['slow', 'relief', 'low-range'],
        hands: { shutoff: 0, bleed: 0, supply: 1 },
      },
      shut: { title: 'Supply shut', say: 'Shut the supply.', hands: { supply: 0 } },
    },
    side: {
      open: {
        title: 'Side open',
        say: 'Open its side by the manual.',
        cautions: ['low-range'],
        hands: { side: 1 },
      },
      closed: { title: 'Side closed', say: 'Cover and plug in, with their seals.', hands: { side: 0 } },
    },
    tool: {
      in: {
        title: 'In-line tool in',
        say: 'In-line tool between hose and inlet.',
        cautions: ['tool', 'dead'],
        hands: { tool: 1 },
      },
      out: { title: 'Tool out', say: 'Tool out, hose tight.', cautions: ['dead'], hands: { tool: 0 } },
    },
  },
});
export const { steps: s, read } = parts;
