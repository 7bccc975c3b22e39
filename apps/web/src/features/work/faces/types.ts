import type { WalkItem } from '@firm-needle/core/procedure';
import type { OpenJob } from '../../../sync/useJob.ts';
import type { Actions } from '../useActions.ts';
import type { Live } from '../useLiveSource.ts';

/** What every face of a step is given. */
export interface FaceProps {
  readonly job: OpenJob;
  readonly item: WalkItem;
  readonly live: Live | undefined;
  readonly actions: Actions;
}
