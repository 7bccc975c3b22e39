import Button from '@mui/material/Button';
import './record.css';

/** One thing that two people have otherwise. */
export interface Apart {
  readonly label: string;
  readonly mine: string;
  readonly theirs: string;
}

/** Whether something is still used, where two have it otherwise. */
export const retiredApart = (mine: boolean | undefined, theirs: boolean): readonly Apart[] =>
  Boolean(mine) === theirs
    ? []
    : [{ label: 'In the book', mine: mine ? 'retired' : 'in use', theirs: theirs ? 'retired' : 'in use' }];

/** Somebody else changed it first: what they made of it, beside what stands here. */
export function Meanwhile({
  apart,
  onTheirs,
  onMine,
}: {
  apart: readonly Apart[];
  onTheirs: () => void;
  onMine: () => void;
}) {
  return (
    <div className="caution record-wide" role="alert">
      <strong>Somebody changed this meanwhile.</strong>
      <dl className="record-apart">
        {apart.map((a) => (
          <div key={a.label}>
            <dt>{a.label}</dt>
            <dd>
              theirs: {a.theirs} · yours: {a.mine}
            </dd>
          </div>
        ))}
        {apart.length === 0 && <div>It is now just what you typed.</div>}
      </dl>
      <Button size="small" onClick={onTheirs}>
        Take theirs
      </Button>{' '}
      <Button size="small" onClick={onMine}>
        Keep mine over it
      </Button>
    </div>
  );
}
