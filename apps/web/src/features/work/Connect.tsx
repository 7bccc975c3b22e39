import Button from '@mui/material/Button';
import { useState } from 'react';
import type { BytePort } from '../../live/serialSource.ts';
import { choosePort } from '../../live/webSerial.ts';

/** A serial gauge is chosen by its owner, never by itself. */
export function Connect({ onPort }: { onPort: (port: BytePort) => void }) {
  const [wrong, setWrong] = useState<string>();
  return (
    <p className="connect" role="status">
      <Button
        variant="outlined"
        onClick={() =>
          void choosePort().then(onPort, (e: unknown) => setWrong(e instanceof Error ? e.message : String(e)))
        }
      >
        Connect the gauge
      </Button>{' '}
      <span className="soft">
        {wrong ? `Not connected: ${wrong} Readings can be typed.` : 'Until then readings are typed.'}
      </span>
    </p>
  );
}
