import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import type { ReactNode } from 'react';

/** Longest text of an entry, characters: the same bound as the log's own. */
const MOST_PROSE = 8000;

/** A dialog that asks for something in the middle of a job; `acts` are its buttons, beside the way back. */
export function Ask({
  title,
  acts,
  onClose,
  wide = false,
  children,
}: {
  readonly title: string;
  readonly acts: ReactNode;
  readonly onClose: () => void;
  /** It holds more than a question. */
  readonly wide?: boolean;
  readonly children: ReactNode;
}) {
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth={wide ? 'sm' : 'xs'}>
      <DialogTitle>{title}</DialogTitle>
      <DialogContent>{children}</DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Back</Button>
        {acts}
      </DialogActions>
    </Dialog>
  );
}

/** A reason in words, no longer than the log takes. */
export function Why({
  label = 'Why',
  value,
  onChange,
  autoFocus = false,
}: {
  readonly label?: string;
  readonly value: string;
  readonly onChange: (text: string) => void;
  readonly autoFocus?: boolean;
}) {
  return (
    <TextField
      autoFocus={autoFocus}
      fullWidth
      margin="dense"
      multiline
      maxRows={8}
      label={label}
      slotProps={{ htmlInput: { maxLength: MOST_PROSE } }}
      value={value}
      onChange={(e) => onChange(e.target.value)}
    />
  );
}
