import type { NewLink, Problem, SharedLink } from '@firm-needle/contract';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { format, isPast, parseISO } from 'date-fns';
import { useState } from 'react';
import { useMakeLinkMutation, useLinksQuery, useWithdrawLinkMutation } from '../store/api.ts';
import { useMe } from '../store/me.ts';
import { handedOver } from '../sync/handOver.ts';
import { outbox } from '../sync/outbox.ts';
import { problemOf } from '../ui/States.tsx';
import { zoneHere } from './files.ts';
import './share.css';

const DAYS = [7, 30, 90, 365] as const;
const day = (iso: string): string => format(parseISO(iso), 'd MMM yyyy');

/** Links to one sheet: a new one, those that stand, and taking one back. */
export function ShareDialog({ job, title, onClose }: { job: string; title: string; onClose: () => void }) {
  const me = useMe();
  const links = useLinksQuery(job);
  const [make, making] = useMakeLinkMutation();
  const [withdraw, withdrawing] = useWithdrawLinkMutation();
  const [days, setDays] = useState<number>(30);
  const [made, setMade] = useState<NewLink>();
  const [sending, setSending] = useState(false);
  const [unsent, setUnsent] = useState<Problem>();
  const problem = unsent ?? problemOf(making.error ?? withdrawing.error ?? links.error);
  const start = async (): Promise<void> => {
    // What was signed a moment ago may still be on its way.
    setSending(true);
    const why = await handedOver(outbox, me.id, job);
    setUnsent(why);
    if (!why) {
      const answer = await make({ job, days, zone: zoneHere() });
      if (answer.data) setMade(answer.data);
    }
    setSending(false);
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>A link for the customer</DialogTitle>
      <DialogContent className="share">
        <p>
          Whoever has the link reads this sheet and nothing else, without an account, until it expires or is
          withdrawn.
        </p>
        {made ? (
          <TheLink key={made.id} link={made} title={title} />
        ) : (
          <div className="share-make">
            <TextField
              select
              label="It expires after"
              value={days}
              onChange={(e) => setDays(Number(e.target.value))}
            >
              {DAYS.map((d) => (
                <MenuItem key={d} value={d}>
                  {d === 365 ? 'a year' : `${d} days`}
                </MenuItem>
              ))}
            </TextField>
            <Button variant="contained" disabled={sending} onClick={() => void start()}>
              {sending ? 'Making …' : 'Make the link'}
            </Button>
          </div>
        )}
        {problem && (
          <p className="caution" role="alert">
            {problem.detail} {problem.remedy}
          </p>
        )}
        {links.data && links.data.length > 0 && (
          <ul className="share-links" aria-label="Links to this sheet">
            {links.data.map((l) => (
              <li key={l.id}>
                <span>
                  {day(l.createdAt)}, {l.by}: {stateOf(l)}
                  {l.opened > 0 && ` Opened ${l.opened === 1 ? 'once' : `${l.opened} times`}.`}
                </span>
                {stands(l) && (
                  <Button
                    onClick={() => {
                      if (made?.id === l.id) setMade(undefined);
                      void withdraw(l.id);
                    }}
                  >
                    Withdraw
                  </Button>
                )}
              </li>
            ))}
          </ul>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Back</Button>
      </DialogActions>
    </Dialog>
  );
}

const stands = (l: SharedLink): boolean => l.withdrawnAt === null && !isPast(parseISO(l.expiresAt));

function stateOf(l: SharedLink): string {
  if (l.withdrawnAt !== null) return `withdrawn on ${day(l.withdrawnAt)}.`;
  return isPast(parseISO(l.expiresAt))
    ? `expired on ${day(l.expiresAt)}.`
    : `reads until ${day(l.expiresAt)}.`;
}

/** A new link: shown this once, to be copied or handed to the device's own sharing. */
function TheLink({ link, title }: { link: NewLink; title: string }) {
  const [copied, setCopied] = useState<boolean>();
  const url = `${location.origin}/shared/${link.token}`;
  const copy = async (): Promise<void> => {
    try {
      await navigator.clipboard.writeText(url);
      setCopied(true);
    } catch {
      setCopied(false);
    }
  };
  return (
    <div className="share-made">
      <TextField
        label="The link, shown this once"
        value={url}
        fullWidth
        slotProps={{
          htmlInput: {
            readOnly: true,
            onFocus: (e: React.FocusEvent<HTMLInputElement>) => e.target.select(),
          },
        }}
      />
      <div className="share-acts">
        <Button variant="contained" onClick={() => void copy()}>
          {copied ? 'Copied' : 'Copy'}
        </Button>
        {copied === false && (
          <span role="alert">
            This browser lets nothing be copied here. Mark the link above and copy it by hand.
          </span>
        )}
        {'share' in navigator && (
          <Button onClick={() => void navigator.share({ title, url }).catch(() => undefined)}>Share</Button>
        )}
      </div>
    </div>
  );
}
