import { useState } from 'react';
import { usePhotoUrl } from './keptPhotos.ts';
import './photos.css';

interface PhotoProps {
  readonly hash: string;
  readonly text: string;
  readonly width: number;
  readonly height: number;
  /** Where its bytes are had, where that is neither this device nor the firm's own server. */
  readonly url?: string | undefined;
}

/** A photo with what it shows; one that has not arrived says so. */
export function Photo(props: PhotoProps) {
  return (
    <figure className="photo">
      {props.url === undefined ? <Own {...props} /> : <Picture {...props} url={props.url} />}
      {props.text && <figcaption>{props.text}</figcaption>}
    </figure>
  );
}

function Own(props: PhotoProps) {
  const url = usePhotoUrl(props.hash);
  return url === undefined ? (
    <div className="photo-away" style={{ aspectRatio: `${props.width} / ${props.height}` }} />
  ) : (
    <Picture {...props} url={url} />
  );
}

function Picture({ url, text, width, height }: PhotoProps & { url: string }) {
  const [away, setAway] = useState(false);
  if (away)
    return (
      <div className="photo-away soft" style={{ aspectRatio: `${width} / ${height}` }}>
        Still on the device that took it
      </div>
    );
  return (
    <a href={url} target="_blank" rel="noreferrer" className="photo-link">
      <img
        src={url}
        alt={text || 'Photo'}
        width={width}
        height={height}
        loading="lazy"
        onError={() => setAway(true)}
      />
    </a>
  );
}
