import type { Caution } from '@firm-needle/core/family';
import type { FactDef, TimeLimit } from '@firm-needle/core/procedure';

export const cautions: readonly Caution[] = [
  {
    key: 'injection',
    title: 'The jet goes through skin',
    text: 'Never a hand or a foot before the nozzle. An injection looks small and is an emergency: hospital at once.',
  },
  {
    key: 'trapped',
    title: 'Pressure stays when the engine stops',
    text: 'Engine off, then pull the trigger until nothing comes, before a gauge, plug, hose or nozzle is touched.',
  },
  {
    key: 'bypass',
    title: 'A few minutes in bypass, no longer',
    text: 'With the trigger released the water goes round and heats. Pull it, or stop the engine.',
  },
  {
    key: 'ratings',
    title: 'The spike counts, not the working pressure',
    text: 'What is trapped stands on pump, hose, gun and gauge: it stays below the weakest of them.',
  },
  {
    key: 'body',
    title: 'Eyes, ears, feet, air',
    text: 'Goggles, ear protection and boots. No engine indoors. The burner of a heated machine is off.',
  },
  {
    key: 'manual',
    title: 'The maker’s word comes first',
    text: 'Where the manual of pump or unloader says otherwise, follow it.',
  },
];

export const facts: Readonly<Record<string, Readonly<Record<string, FactDef>>>> = {
  cautions: { read: { title: 'Cautions read', say: 'Read the cautions.' } },
  engine: {
    on: {
      title: 'Engine running',
      say: 'Water on, trigger pulled, start the engine.',
      cautions: ['injection', 'body'],
      hands: { engine: 1, trigger: 1 },
    },
    off: {
      title: 'Engine off, pressure released',
      say: 'Stop the engine and pull the trigger until nothing comes.',
      cautions: ['trapped'],
      hands: { engine: 0, trigger: 1 },
    },
  },
  trigger: {
    released: { title: 'Trigger released', say: 'Release the trigger.', hands: { trigger: 0 } },
    pulled: { title: 'Trigger pulled', say: 'Pull the trigger and hold it.', hands: { trigger: 1 } },
  },
  nozzle: {
    fitted: {
      title: 'Nozzle fitted',
      say: 'Engine off and pressure released, then fit the nozzle.',
      hands: { nozzle: 1 },
    },
  },
};

/** A few minutes in bypass and no longer [common practice, no source: three]. */
export const timeLimits: readonly TimeLimit[] = [
  {
    key: 'bypass',
    during: { engine: 'on', trigger: 'released' },
    seconds: 180,
    title: 'In bypass',
    ends: { fact: 'trigger', wanted: 'pulled' },
  },
];
