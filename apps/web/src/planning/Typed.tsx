import TextField from '@mui/material/TextField';
import type { Refusal } from '@firm-needle/core/result';
import { useEffect, useState } from 'react';

interface TypedProps {
  readonly label: string;
  readonly shown: string;
  readonly unit: string;
  /** Held by something else: shown, not typed. */
  readonly held?: boolean;
  readonly hint?: string;
  readonly onType: (text: string) => Refusal | undefined;
}

/** One value that can be typed: taken on Enter or on leaving the field; a refusal stands under it and the text stays. */
export function Typed({ label, shown, unit, held = false, hint, onType }: TypedProps) {
  const [text, setText] = useState(shown);
  const [refusal, setRefusal] = useState<Refusal>();
  useEffect(() => {
    setText(shown);
    setRefusal(undefined);
  }, [shown]);
  const take = (): void => {
    if (text.trim() === shown) return setRefusal(undefined);
    setRefusal(onType(text));
  };
  return (
    <TextField
      size="small"
      label={label}
      value={text}
      className={held ? 'held' : ''}
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => {
        if (e.key === 'Enter') take();
        if (e.key === 'Escape') {
          setText(shown);
          setRefusal(undefined);
        }
      }}
      error={refusal !== undefined}
      helperText={
        refusal
          ? `${refusal.message} ${refusal.bound ? `Bounds: ${refusal.bound}.` : ''} ${refusal.remedy ?? ''}`
          : hint
      }
      slotProps={{
        input: { readOnly: held, endAdornment: <span className="soft">{unit}</span> },
        htmlInput: { inputMode: 'decimal', className: 'figure', autoComplete: 'off' },
      }}
    />
  );
}
