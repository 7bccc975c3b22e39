import { NOT_HELD, type SetAside as Aside } from '@firm-needle/core/procedure';
import Button from '@mui/material/Button';
import { format } from 'date-fns';
import type { OpenJob } from '../../sync/useJob.ts';
import type { Actions } from './useActions.ts';

/** Entries that do not count, each with its reason; those of a device that had lost the job can be let count, one by one. */
export function SetAside({ job, actions, held }: { job: OpenJob; actions: Actions; held: boolean }) {
  const { aside, signed } = job.view.state;
  if (aside.length === 0) return null;
  const adoptable = (a: Aside): boolean => a.reason === NOT_HELD && !held && !signed;
  return (
    <details className="aside" open={aside.some(adoptable)}>
      <summary>
        {aside.length === 1 ? 'One entry is set aside' : `${aside.length} entries are set aside`}: kept, and
        not counted
      </summary>
      <ul>
        {aside.map((a, i) => (
          <li key={a.event.id || i}>
            <span className="figure">{timeOf(a)}</span> <strong>{inWords(a, job)}</strong>{' '}
            <span className="soft">{a.reason}</span>
            {adoptable(a) && (
              <Button size="small" variant="outlined" onClick={() => void actions.adopt(a.event.id)}>
                Let it count
              </Button>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}

function timeOf({ event }: Aside): string {
  const at = new Date(event.wall ?? NaN);
  return Number.isNaN(at.getTime()) ? '–' : format(at, 'HH:mm');
}

/** What it was, as far as it can be read. */
function inWords({ event, reason }: Aside, job: OpenJob): string {
  const body = event.body as unknown as Record<string, unknown> | undefined;
  // What does not fit its schema is not looked into.
  if (reason !== NOT_HELD && typeof body?.['kind'] !== 'string') return 'something unreadable';
  switch (body?.['kind']) {
    case 'read': {
      const title =
        job.family.settings.find((s) => s.id === body['setting'])?.title ?? String(body['setting']);
      const value = body['value'] as { text?: unknown; unit?: unknown } | undefined;
      return `${title} ${String(value?.text ?? '')} ${String(value?.unit ?? '')}`.trim();
    }
    case 'turn':
      return String(body['text'] ?? 'a turn');
    case 'observe':
      return `answer: ${String(body['answer'])}`;
    case 'note':
      return `note: ${String(body['text']).slice(0, 80)}`;
    case 'photo':
      return `photo: ${String(body['text']).slice(0, 80)}`;
    default:
      return String(body?.['kind'] ?? 'something unreadable');
  }
}
