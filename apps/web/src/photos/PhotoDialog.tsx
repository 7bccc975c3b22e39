import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useEffect, useState } from 'react';
import { FileButton } from '../ui/FileButton.tsx';
import type { Reduced } from '../workers/photo.worker.ts';
import { keepPhoto, reduce } from './keptPhotos.ts';
import './photos.css';

const MOST_CAPTION = 400;

/** A photo as it was kept, with what it shows. */
export interface TakenPhoto {
  readonly hash: string;
  readonly width: number;
  readonly height: number;
  readonly text: string;
}

/**
 * A photo is taken or chosen, looked at, named, and kept on this device.
 * @param onKeep enters it; resolves to whether it was kept
 */
export function PhotoDialog({
  title,
  onKeep,
  onClose,
}: {
  title: string;
  onKeep: (photo: TakenPhoto) => Promise<boolean>;
  onClose: () => void;
}) {
  const [photo, setPhoto] = useState<Reduced>();
  const [said, setSaid] = useState<string>();
  const [busy, setBusy] = useState(false);
  const [text, setText] = useState('');
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    if (!photo) return;
    const made = URL.createObjectURL(photo.data);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [photo]);
  const choose = async (file: File): Promise<void> => {
    setBusy(true);
    setSaid(undefined);
    try {
      const reduced = await reduce(file);
      if (reduced.ok) setPhoto(reduced.photo);
      else setSaid(reduced.because);
    } catch {
      setSaid('This device could not reduce the picture. Try a smaller one.');
    } finally {
      setBusy(false);
    }
  };
  const keep = async (): Promise<void> => {
    if (!photo) return;
    setBusy(true);
    try {
      await keepPhoto(photo);
      const { hash, width, height } = photo;
      if (await onKeep({ hash, width, height, text: text.trim() })) onClose();
      else setSaid('It was not entered: the job went on meanwhile. Try again.');
    } catch {
      setSaid('This device could not keep the photo: its store may be full. Nothing else was lost.');
    } finally {
      setBusy(false);
    }
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>{title}</DialogTitle>
      <DialogContent className="photo-dialog">
        {url ? (
          <img src={url} alt="The photo as it will be kept" className="photo-preview" />
        ) : (
          <p className="soft">
            The plate, the gauge’s face, what is worn or seized. It is reduced, and kept on this device until
            it is sent.
          </p>
        )}
        {photo?.hadPlace && (
          <p className="photo-said">The camera had written the place into it. That was taken out.</p>
        )}
        {said && (
          <p className="caution" role="alert">
            {said}
          </p>
        )}
        <FileButton
          label="Photo"
          accept="image/*"
          plain={photo !== undefined}
          disabled={busy}
          onChoose={(file) => void choose(file)}
        >
          {busy ? 'Reducing …' : photo ? 'Another photo' : 'Take or choose a photo'}
        </FileButton>
        {photo && (
          <TextField
            label="What it shows"
            value={text}
            onChange={(e) => setText(e.target.value)}
            slotProps={{ htmlInput: { maxLength: MOST_CAPTION } }}
            fullWidth
          />
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Back</Button>
        <Button variant="contained" disabled={!photo || busy} onClick={() => void keep()}>
          Keep the photo
        </Button>
      </DialogActions>
    </Dialog>
  );
}
