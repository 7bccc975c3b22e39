import Button from '@mui/material/Button';
import { format, parseISO } from 'date-fns';
import { useState } from 'react';
import { Link } from 'react-router';
import { v7 as uuid } from 'uuid';
import { Photo } from '../../photos/Photo.tsx';
import { PhotoDialog, type TakenPhoto } from '../../photos/PhotoDialog.tsx';
import { api, usePhotosQuery } from '../../store/api.ts';
import { useAppDispatch } from '../../store/index.ts';
import { outbox } from '../../sync/outbox.ts';

const day = (iso: string): string => format(parseISO(iso), 'd MMM yyyy');
const SHOWN = 6;

/** Photos of a control: of its plate, and those of its jobs. */
export function LifePhotos({ control, may }: { control: string; may: boolean }) {
  const photos = usePhotosQuery(control);
  const dispatch = useAppDispatch();
  const [adding, setAdding] = useState(false);
  const [all, setAll] = useState(false);
  const put = async (id: string, photo: TakenPhoto & { removed?: boolean }): Promise<boolean> => {
    await outbox.keep([{ path: `/controls/${control}/photos/${id}`, body: photo }]);
    dispatch(api.util.invalidateTags(['Photo']));
    return true;
  };
  const items = photos.data ?? [];
  return (
    <div className="life-card">
      <h2>Photos</h2>
      {items.length === 0 && (
        <p className="soft">None yet. One of the rating plate helps whoever comes next.</p>
      )}
      <div className="photos">
        {items.slice(0, all ? items.length : SHOWN).map((p) => (
          <div key={p.id}>
            <Photo {...p} />
            <p className="life-photo soft">
              {p.job ? <Link to={`/jobs/${p.job}/sheet`}>{day(p.at)}</Link> : day(p.at)}
              {may && p.job === null && (
                <Button
                  size="small"
                  variant="text"
                  onClick={() => {
                    const { hash, width, height, text } = p;
                    void put(p.id, { hash, width, height, text, removed: true });
                  }}
                >
                  Take away
                </Button>
              )}
            </p>
          </div>
        ))}
      </div>
      {items.length > SHOWN && !all && (
        <Button variant="text" onClick={() => setAll(true)}>
          All {items.length}
        </Button>
      )}
      {may && <Button onClick={() => setAdding(true)}>Add a photo</Button>}
      {adding && (
        <PhotoDialog
          title="A photo of the control"
          onKeep={(photo) => put(uuid(), photo)}
          onClose={() => setAdding(false)}
        />
      )}
    </div>
  );
}
