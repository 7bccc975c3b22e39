import Button from '@mui/material/Button';
import { useRef, type ReactNode } from 'react';

/** A button that lets a file be chosen; the same one can be chosen again. */
export function FileButton({
  label,
  accept,
  onChoose,
  plain = false,
  disabled = false,
  children,
}: {
  /** What the file is, for those who cannot see the button. */
  label: string;
  accept: string;
  onChoose: (file: File) => void;
  plain?: boolean;
  disabled?: boolean;
  children: ReactNode;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button
        variant={plain ? 'text' : 'contained'}
        disabled={disabled}
        onClick={() => input.current?.click()}
      >
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        hidden
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          if (chosen) onChoose(chosen);
          e.target.value = '';
        }}
      />
    </>
  );
}
