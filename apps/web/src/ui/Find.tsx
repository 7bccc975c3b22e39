import type { Hit } from '@firm-needle/contract';
import Dialog from '@mui/material/Dialog';
import TextField from '@mui/material/TextField';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { useSearchQuery, useSitesQuery } from '../store/api.ts';
import { problemOf } from './States.tsx';
import './find.css';

const KIND: Readonly<Record<Hit['kind'], string>> = {
  site: 'Site',
  control: 'Control',
  equipment: 'Equipment',
  gauge: 'Gauge',
  finding: 'Found',
};
const LEAST_LETTERS = 2;
const SETTLE_MS = 180;

const pathOf = ({ kind, id }: Hit): string =>
  kind === 'control'
    ? `/controls/${id}`
    : kind === 'gauge'
      ? `/gauges/${id}`
      : kind === 'finding'
        ? `/jobs/${id}/sheet`
        : `/sites/${id}`;

/** Anything in the firm's book by a few letters; with no signal, what of the sites this device keeps. */
export function Find({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const [text, setText] = useState('');
  const [asked, setAsked] = useState('');
  const [at, setAt] = useState(0);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(text.trim()), SETTLE_MS);
    return () => clearTimeout(timer);
  }, [text]);
  const found = useSearchQuery(asked, { skip: asked.length < LEAST_LETTERS });
  const here = useKeptHits(asked, found.error !== undefined);
  const hits = asked.length < LEAST_LETTERS ? [] : found.error ? here : (found.currentData ?? []);
  const go = (hit: Hit | undefined): void => {
    if (!hit) return;
    onClose();
    void navigate(pathOf(hit));
  };
  return (
    <Dialog
      open
      onClose={onClose}
      fullWidth
      maxWidth="sm"
      aria-label="Find anything"
      className="find from-top"
    >
      <TextField
        autoFocus
        fullWidth
        placeholder="Site, customer, control, serial, finding"
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
        }}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
            e.preventDefault();
            setAt(Math.max(0, Math.min(hits.length - 1, at + (e.key === 'ArrowDown' ? 1 : -1))));
          } else if (e.key === 'Enter') go(hits[at]);
        }}
        slotProps={{
          htmlInput: {
            'aria-label': 'Find anything',
            role: 'combobox',
            'aria-expanded': hits.length > 0,
            'aria-controls': 'find-hits',
            ...(hits.length > 0 ? { 'aria-activedescendant': `find-${at}` } : {}),
          },
        }}
      />
      <ul id="find-hits" role="listbox" aria-label="What was found">
        {hits.map((h, i) => (
          <li
            key={`${h.kind} ${h.id} ${h.title}`}
            id={`find-${i}`}
            role="option"
            aria-selected={i === at}
            onClick={() => go(h)}
          >
            <span className="soft">{KIND[h.kind]}</span>
            <span>
              <strong>{h.title}</strong> <span className="soft">{h.beside}</span>
            </span>
          </li>
        ))}
      </ul>
      <p className="soft" role="status">
        {asked.length < LEAST_LETTERS
          ? 'Two letters or more.'
          : found.isFetching
            ? 'Looking …'
            : hits.length === 0
              ? `Nothing here is called “${asked}”.`
              : problemOf(found.error)
                ? 'No connection: only the sites that this device keeps.'
                : ''}
      </p>
    </Dialog>
  );
}

/** What this device keeps of the sites, searched here. */
function useKeptHits(text: string, wanted: boolean): readonly Hit[] {
  const sites = useSitesQuery(undefined, { skip: !wanted }).data?.items ?? [];
  const find = text.toLowerCase();
  const has = (s: string | null): boolean => (s ?? '').toLowerCase().includes(find);
  return sites.flatMap((s): Hit[] => [
    ...(has(s.name) || has(s.customer)
      ? [{ kind: 'site' as const, id: s.id, title: s.name, beside: s.customer ?? '' }]
      : []),
    ...s.equipment.flatMap((e): Hit[] => [
      ...(has(e.name) || has(e.serial)
        ? [{ kind: 'equipment' as const, id: s.id, title: e.name, beside: s.name }]
        : []),
      ...e.controls
        .filter((c) => has(c.name))
        .map((c) => ({ kind: 'control' as const, id: c.id, title: c.name, beside: `${s.name} · ${e.name}` })),
    ]),
  ]);
}
