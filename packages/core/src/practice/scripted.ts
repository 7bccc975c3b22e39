import { ScriptedTechnician } from '../script/index.js';
import { revealOf } from './reveal.js';
import { rigOfDraw, startedOn, type Draw, type Exercise, type RunRecord } from './run.js';
import { WatchedRig } from './watched.js';

/** A whole run by the script at bare, who names up to two of what could be known, or says that nothing could: for tests and figures. */
export function scriptedRecord(ex: Exercise, draw: Draw, over: Partial<RunRecord> = {}): RunRecord {
  const rig = new WatchedRig(rigOfDraw(ex, draw), []);
  const job = new ScriptedTechnician(ex.family, rig, startedOn(ex, draw), { goesOn: true }).run();
  const known = draw.faults.filter((f) => revealOf(ex, draw, f).knowable);
  return {
    id: 'run',
    kind: 'run',
    family: ex.family.meta.id,
    variant: ex.variant.name,
    level: draw.level,
    help: 'bare',
    sealed: '',
    startedAt: '2030-01-01T08:00:00Z',
    events: job.log.events,
    deeds: rig.deeds,
    said: {
      faults: known.slice(0, 2),
      sure: 0.95,
      ...(draw.faults.length > 0 && known.length === 0 ? { cannotTell: true } : {}),
    },
    ...over,
  };
}
