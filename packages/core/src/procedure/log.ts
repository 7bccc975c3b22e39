import { parseEvent, type JobEvent } from './events.js';
import { apply, fold, type Check } from './fold.js';
import type { JobState } from './state.js';

/** A growing log with its state: appends in constant time, folds anew only where a correction or adoption demands it. */
export class JobLog {
  private list: JobEvent[] = [];
  private folded: JobState;
  private bumped = 0;
  private check: Check | undefined;

  constructor(
    readonly job: string,
    events: readonly JobEvent[] = [],
  ) {
    this.list = [...events];
    this.folded = fold(job, this.list);
  }

  get events(): readonly JobEvent[] {
    return this.list;
  }

  get state(): JobState {
    return this.folded;
  }

  /** Grows with every change: what depends on the state can be kept until it moves. */
  get revision(): number {
    return this.bumped;
  }

  /** From here on what the family does not know is set aside too; said once its family is here, harmless to say again. */
  judgeBy(check: Check): void {
    if (this.check === check) return;
    this.check = check;
    this.refold();
  }

  append(event: JobEvent): void {
    this.list.push(event);
    this.bumped++;
    const kind = parseEvent(event).event.body.kind;
    if (kind === 'correct' || kind === 'adopt') this.refold();
    else apply(this.folded, event, { check: this.check });
  }

  /** Replace the whole log, for instance when the server's sequence differs from the local one. */
  replace(events: readonly JobEvent[]): void {
    this.list = [...events];
    this.bumped++;
    this.refold();
  }

  private refold(): void {
    this.folded = fold(this.job, this.list, this.check);
  }
}
