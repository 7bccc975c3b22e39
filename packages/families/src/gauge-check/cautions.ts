import type { Caution } from '@firm-needle/core/family';
import type { FactDef } from '@firm-needle/core/procedure';

export const cautions: readonly Caution[] = [
  {
    key: 'eyes',
    title: 'Goggles and gloves',
    text: 'Liquid refrigerant freezes skin and eyes; a hose that bursts whips.',
  },
  {
    key: 'trapped',
    title: 'Never trap liquid between closed valves',
    text: 'Liquid shut in a hose bursts it as it warms. Close the cylinder first, then empty the hose.',
  },
  {
    key: 'heat',
    title: 'Never heat a cylinder',
    text: 'No sun, no water bath, no torch: it is read where it has come to rest.',
  },
  {
    key: 'recover',
    title: 'Bleed little, recover the rest',
    text: 'Purge only the air of the hose. What is left goes into a recovery cylinder, not into the air.',
  },
  {
    key: 'overrange',
    title: 'Never past the end of a scale',
    text: 'Raise the pump slowly; stop where either gauge ends.',
  },
  {
    key: 'manual',
    title: 'The maker’s word comes first',
    text: 'Where the gauge’s manual or your own procedure says otherwise, follow it.',
  },
];

export const facts: Readonly<Record<string, Readonly<Record<string, FactDef>>>> = {
  cautions: { read: { title: 'Cautions read', say: 'Read the cautions.' } },
  gauge: {
    vented: {
      title: 'Vented',
      say: 'Take the hoses off and open every valve, so that the gauge sees only air.',
      cautions: ['trapped'],
      hands: { port: 0 },
    },
  },
  cylinder: {
    open: {
      title: 'Cylinder open to the gauge',
      say: 'Connect the hose, open the cylinder slowly, bleed the hose for a moment.',
      cautions: ['eyes', 'heat'],
      hands: { port: 1, valve: 1, bleed: 1 },
    },
    closed: { title: 'Cylinder closed', say: 'Close the cylinder.', hands: { valve: 0 } },
  },
  pump: {
    connected: {
      title: 'Both gauges on the pump',
      say: 'Fit both gauges on the hand pump, at one height.',
      hands: { port: 2, pump: 0 },
    },
    released: { title: 'Pump released', say: 'Release the pump to nothing.', hands: { pump: 0, port: 0 } },
  },
};
