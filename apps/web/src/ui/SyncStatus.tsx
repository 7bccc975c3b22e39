import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import { Link, useLocation } from 'react-router';
import { useAppSelector } from '../store/index.ts';
import type { OutboxState } from '../sync/outbox.ts';
import { outbox } from '../sync/outbox.ts';

/** Where the records are: how many only on this device, how many sent, and what waits and why. */
export function SyncStatus({ short = false }: { short?: boolean }) {
  const box = useAppSelector((s) => s.ui.outbox);
  const location = useLocation();
  const [open, setOpen] = useState(false);
  const text = textOf(box, short);
  if (box.status === 'signed-out')
    return (
      <Link
        className="sync signed-out"
        role="status"
        to="/sign-in"
        state={{ from: location.pathname + location.search }}
      >
        {text}: sign in
      </Link>
    );
  if (!box.problem)
    return (
      <span className={`sync ${box.status}`} role="status">
        {text}
      </span>
    );
  return (
    <>
      <button type="button" className={`sync ${box.status}`} onClick={() => setOpen(true)}>
        <span role="status">{text}</span>
      </button>
      <Dialog open={open} onClose={() => setOpen(false)} fullWidth maxWidth="sm">
        <DialogTitle>{box.kept} entries wait on this device</DialogTitle>
        <DialogContent>
          <Waiting box={box} />
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Back</Button>
          <Button
            variant="contained"
            onClick={() => {
              setOpen(false);
              void outbox.tryAgain();
            }}
          >
            Try again now
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}

function Waiting({ box }: { box: OutboxState }) {
  if (!box.held)
    return (
      <p>
        <strong>{box.problem?.detail}</strong> {box.problem?.remedy} It is tried again by itself.
      </p>
    );
  return (
    <ul className="plain">
      {box.held.map((h) => (
        <li key={`${h.job} ${h.what}`}>
          <strong>
            The server did not take {h.job ? `an entry (${h.what})` : h.what}: {h.problem.detail}
          </strong>{' '}
          {h.problem.remedy}{' '}
          {h.waiting > 0 &&
            `${h.waiting} later ${h.waiting === 1 ? 'entry waits' : 'entries wait'} behind it.`}{' '}
          {h.job && <Link to={`/jobs/${h.job}`}>The job</Link>}
        </li>
      ))}
    </ul>
  );
}

function textOf({ kept, sent, status, problem }: OutboxState, short: boolean): string {
  switch (status) {
    case 'signed-out':
      return `signed out, ${kept} kept here`;
    case 'refused':
      return `${kept} held back, kept here`;
    case 'waiting':
      return problem?.code === 'version-newer'
        ? `server older, ${kept} kept here`
        : `no server, ${kept} kept here`;
    case 'idle':
    case 'sending':
      if (kept > 0) return short ? `${kept} kept here` : `${kept} kept here, ${sent} sent`;
      if (short) return 'all sent';
      return sent === 0 ? 'nothing to send' : `all ${sent} sent`;
  }
}
