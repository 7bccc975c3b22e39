import { families } from '@firm-needle/families';
import Button from '@mui/material/Button';
import InputAdornment from '@mui/material/InputAdornment';
import TextField from '@mui/material/TextField';
import { format, parseISO } from 'date-fns';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { useSitesQuery } from '../../store/api.ts';
import { useMe } from '../../store/me.ts';
import type { Site } from '@firm-needle/contract';
import { SearchIcon } from '../../ui/icons.tsx';
import { Empty, Failed, Loading, problemOf } from '../../ui/States.tsx';
import { SiteDialog } from './SiteDialog.tsx';
import './sites.css';

const available = new Set(families().map((f) => f.id));

/** Every site with its equipment and controls, and a search over all of it. */
export function SitesPage() {
  const sites = useSitesQuery();
  const me = useMe();
  const navigate = useNavigate();
  const [adding, setAdding] = useState(false);
  const [params, setParams] = useSearchParams();
  const find = params.get('find') ?? '';
  if (sites.isLoading) return <Loading what="the sites" />;
  if (!sites.data) return <Failed problem={problemOf(sites.error)} retry={() => void sites.refetch()} />;
  const shown = sites.data.items
    .map((s) => matching(s, find.trim().toLowerCase()))
    .filter((s): s is Site => s !== undefined);
  return (
    <>
      <div className="page-head">
        <h1>Sites</h1>
        <span className="grow" />
        <TextField
          size="small"
          value={find}
          autoFocus={params.has('find')}
          placeholder="Find a site, equipment or control"
          onChange={(e) => setParams(e.target.value ? { find: e.target.value } : {}, { replace: true })}
          slotProps={{
            htmlInput: { 'aria-label': 'Find a site, equipment or control' },
            input: {
              startAdornment: (
                <InputAdornment position="start">
                  <SearchIcon fontSize="small" />
                </InputAdornment>
              ),
            },
          }}
          sx={{ width: 340, maxWidth: '100%' }}
        />
        <Button component={Link} to="/exchange">
          In and out
        </Button>
        {me.role !== 'reader' && <Button onClick={() => setAdding(true)}>New site</Button>}
      </div>
      {shown.length === 0 &&
        (find ? (
          <Empty>Nothing here is called “{find}”. Try fewer letters.</Empty>
        ) : (
          <Empty>
            No site is entered yet. A site is a place where a customer’s equipment stands: enter the first
            one, then its equipment, then its controls.
          </Empty>
        ))}
      {adding && (
        <SiteDialog
          site={undefined}
          onClose={() => setAdding(false)}
          onKept={(id) => void navigate(`/sites/${id}`)}
        />
      )}
      <div className="sites">
        {shown.map((s) => (
          <section key={s.id} className="site">
            <header>
              <h2>
                <Link to={`/sites/${s.id}`}>{s.name}</Link>
              </h2>
              <span className="soft">{[s.customer, `${s.altitude_m} m`].filter(Boolean).join(' · ')}</span>
            </header>
            {s.notes && <p className="soft site-notes">{s.notes}</p>}
            <ul>
              {s.equipment.flatMap((e) =>
                e.controls.map((c) => (
                  <li key={c.id}>
                    <span>
                      {available.has(c.family) ? <Link to={`/controls/${c.id}`}>{c.name}</Link> : c.name}
                      <span className="soft"> · {e.name}</span>
                    </span>
                    <span className="soft site-due">
                      {available.has(c.family)
                        ? c.due
                          ? `due ${format(parseISO(c.due), 'd MMM yyyy')}`
                          : ''
                        : 'not in this version yet'}
                    </span>
                  </li>
                )),
              )}
            </ul>
          </section>
        ))}
      </div>
    </>
  );
}

/** The site with only what matches, or all of it where its own name does. */
function matching(site: Site, find: string): Site | undefined {
  if (find === '' || site.name.toLowerCase().includes(find)) return site;
  const equipment = site.equipment
    .map((e) =>
      e.name.toLowerCase().includes(find)
        ? e
        : { ...e, controls: e.controls.filter((c) => c.name.toLowerCase().includes(find)) },
    )
    .filter((e) => e.controls.length > 0);
  return equipment.length > 0 ? { ...site, equipment } : undefined;
}
