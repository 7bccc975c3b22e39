import Button from '@mui/material/Button';
import { useState } from 'react';
import { Ask, Why } from './Ask.tsx';

/** Keeps what a dialog holds and closes it once it is kept; what could not be kept stays typed. */
export function useKeeping(onClose: () => void): {
  busy: boolean;
  run: (keep: () => Promise<boolean>) => void;
} {
  const [busy, setBusy] = useState(false);
  return {
    busy,
    run: (keep) => {
      setBusy(true);
      void keep().then((kept) => {
        setBusy(false);
        if (kept) onClose();
      });
    },
  };
}

/** Asks for a reason; nothing happens without one. */
export function ReasonDialog({
  title,
  text,
  act,
  onGive,
  onClose,
}: {
  title: string;
  text: string;
  act: string;
  /** Resolves to whether it was kept: only then does the dialog close. */
  onGive: (reason: string) => Promise<boolean>;
  onClose: () => void;
}) {
  const [reason, setReason] = useState('');
  const keeping = useKeeping(onClose);
  return (
    <Ask
      title={title}
      onClose={onClose}
      acts={
        <Button
          variant="contained"
          disabled={reason.trim() === '' || keeping.busy}
          onClick={() => keeping.run(() => onGive(reason.trim()))}
        >
          {act}
        </Button>
      }
    >
      <p>{text}</p>
      <Why label="In a few words" autoFocus value={reason} onChange={setReason} />
    </Ask>
  );
}
