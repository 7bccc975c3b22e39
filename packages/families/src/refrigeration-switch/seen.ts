import { BOTTLED } from './machine.js';

/** What of the machine is seen beside its gauges. */
interface Looked {
  readonly lowMade: 0 | 1;
  readonly highMade: 0 | 1;
  readonly runs: 0 | 1;
  readonly handles: Readonly<Record<string, number>>;
}

/** What eyes see at a step, as its answer; empty where there is nothing to see. */
export function seen(
  stepKey: string,
  has: (fault: string) => boolean,
  highByItself: boolean,
  s: Looked,
  floods: boolean,
): string {
  switch (stepKey) {
    case 'type':
      return has('unlocked') ? 'unlocked' : 'yes';
    case 'tube':
    case 'new-tube':
      return has('tube-blocked') ? 'blocked' : 'free';
    case 'circuit':
      return has('by-passed') ? 'runs' : 'stays';
    case 'off':
      return has('port-leaks') ? 'leaks' : 'tight';
    case 'leak-again':
      return 'tight';
    default:
  }
  if (stepKey.endsWith('-reset'))
    return has('no-reset')
      ? 'refuses'
      : has('self-reset') && !highByItself
        ? 'self'
        : has('low-charge') && !BOTTLED.test(stepKey)
          ? 'unlike'
          : 'yes';
  if (stepKey.endsWith('-knob')) return s.lowMade === 1 ? 'runs' : 'refuses';
  if (stepKey.endsWith('-high'))
    return s.highMade === 1 && has('fouled-condenser') && s.handles['port'] === 0 ? 'levels' : 'not-stopped';
  // On the bottle the meter tells at once that it had not come as far as was thought.
  if (BOTTLED.test(stepKey) && stepKey.endsWith('-stop')) return s.lowMade === 1 ? 'not-open' : 'still-open';
  if (BOTTLED.test(stepKey) && stepKey.endsWith('-start')) return s.lowMade === 1 ? 'still-made' : 'not-made';
  if (stepKey.endsWith('-stop') && floods) return 'climbs';
  if (stepKey.endsWith('-stop')) return s.runs === 0 && s.lowMade === 0 ? 'not-made' : 'ran-on';
  if (stepKey.endsWith('-start') && s.runs === 1 && !has('valve-leaks')) return 'running';
  if (stepKey.endsWith('-start')) return has('valve-leaks') ? 'by-itself' : s.lowMade === 0 ? 'not-made' : '';
  return stepKey.endsWith('-again') ? 'not-made' : '';
}
