import type { Person } from '@firm-needle/contract';
import Button from '@mui/material/Button';
import { format, parseISO } from 'date-fns';
import { useState } from 'react';
import { usePeopleQuery, useSitesQuery } from '../../store/api.ts';
import { useMe } from '../../store/me.ts';
import { Failed, Loading, problemOf } from '../../ui/States.tsx';
import { PersonDialog, ROLES } from './PersonDialog.tsx';
import { usePermits, type PermitKind } from './usePermits.ts';
import './people.css';

/** The firm's people: what they are, which permits they hold and until when. */
export function PeoplePage() {
  const people = usePeopleQuery();
  const me = useMe();
  const permits = usePermits();
  const sites = useSitesQuery();
  const [editing, setEditing] = useState<Person | 'new'>();
  // With the names of the sites, so that no line grows under a finger.
  if (people.isLoading || sites.isLoading || !permits) return <Loading what="the people" />;
  if (!people.data) return <Failed problem={problemOf(people.error)} retry={() => void people.refetch()} />;
  const may = me.role === 'supervisor';
  const siteName = (id: string | null): string | undefined =>
    sites.data?.items.find((s) => s.id === id)?.name;
  return (
    <>
      <div className="page-head">
        <h1>People</h1>
        <span className="soft">{people.data.items.filter((p) => !p.disabled).length} with an account</span>
        <span className="grow" />
        {may && <Button onClick={() => setEditing('new')}>Add a person</Button>}
      </div>
      <ul className="people">
        {people.data.items.map((p) => (
          <li key={p.id} className={p.disabled ? 'off' : ''}>
            <div>
              <strong>{p.name}</strong>
              <span className="soft">
                {[
                  p.disabled ? 'disabled' : ROLES[p.role],
                  p.login && `signs in as ${p.login}`,
                  siteName(p.siteId),
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </span>
            </div>
            <PermitList person={p} kinds={permits} />
            {may && (
              <Button size="small" onClick={() => setEditing(p)} aria-label={`Change ${p.name}`}>
                Change
              </Button>
            )}
          </li>
        ))}
      </ul>
      {people.data.items.length === 1 && (
        <p className="soft">
          You are alone so far. Add the technicians who go out, and a customer’s account where a customer may
          look at its own site.
        </p>
      )}
      {editing && (
        <PersonDialog
          person={editing === 'new' ? undefined : editing}
          permits={permits}
          sites={sites.data?.items ?? []}
          onClose={() => setEditing(undefined)}
        />
      )}
    </>
  );
}

const today = (): string => format(new Date(), 'yyyy-MM-dd');

function PermitList({ person, kinds }: { person: Person; kinds: readonly PermitKind[] }) {
  if (person.role === 'reader') return <span className="soft">may look at the site, not change it</span>;
  if (person.permits.length === 0) return <span className="soft">no permits</span>;
  return (
    <span className="permits">
      {person.permits.map((p) => {
        const over = p.until !== undefined && p.until < today();
        return (
          <span key={p.id} className={`permit${over ? ' over' : ''}`}>
            {kinds.find((k) => k.id === p.id)?.title ?? p.id}
            {p.until && (
              <em>
                {' '}
                {over ? 'ended' : 'until'} {format(parseISO(p.until), 'd MMM yyyy')}
              </em>
            )}
          </span>
        );
      })}
    </span>
  );
}
