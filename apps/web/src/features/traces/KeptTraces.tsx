import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { format, parseISO } from 'date-fns';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { useTracesQuery } from '../../store/api.ts';

const PAGE = 20;
/** As many as the server gives at once. */
const MOST = 200;
const SETTLE_MS = 200;

const lasting = (s: number): string =>
  s < 120 ? `${Math.round(s)} s` : s < 7200 ? `${Math.round(s / 60)} min` : `${(s / 3600).toFixed(1)} h`;

/** Traces that the server keeps, the newest first; found by a few letters of their name or of where they were recorded. */
export function KeptTraces({ openId }: { openId: string | undefined }) {
  const [text, setText] = useState('');
  const [q, setQ] = useState('');
  const [limit, setLimit] = useState(PAGE);
  useEffect(() => {
    const timer = setTimeout(() => setQ(text.trim()), SETTLE_MS);
    return () => clearTimeout(timer);
  }, [text]);
  const kept = useTracesQuery({ q, limit });
  const { items = [], next = null } = kept.data ?? {};
  if (kept.data && items.length === 0 && q === '') return null;
  return (
    <section className="trace-kept" aria-labelledby="kept-traces">
      <div className="trace-kept-find">
        <h2 id="kept-traces">Kept</h2>
        <TextField
          size="small"
          type="search"
          label="Find by name or place"
          value={text}
          onChange={(e) => {
            setText(e.target.value);
            setLimit(PAGE);
          }}
        />
      </div>
      {kept.error && (
        <p className="soft">Kept traces are listed by the server: there is no connection to it.</p>
      )}
      {kept.data && items.length === 0 && <p className="soft">None of this name or from such a place.</p>}
      <ul>
        {items.map((t) => (
          <li key={t.id}>
            <Link to={`/traces/${t.id}`} aria-current={t.id === openId ? 'true' : undefined}>
              <span>{t.name}</span>
              <span>{t.place ?? <span className="soft">by itself</span>}</span>
              <span className="soft">
                {lasting(t.to_s - t.from_s)}, {t.samples.toLocaleString('en')} samples, kept{' '}
                {format(parseISO(t.createdAt), 'd MMM yyyy')}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {next !== null &&
        (limit < MOST ? (
          <Button size="small" onClick={() => setLimit(Math.min(MOST, limit * 3))}>
            Older ones
          </Button>
        ) : (
          <p className="soft">Older ones are found by a few letters.</p>
        ))}
    </section>
  );
}
