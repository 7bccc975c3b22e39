import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { PHOTO_SIDE } from '@firm-needle/core/procedure';
import { expose } from 'comlink';
import { gps } from 'exifr';

/** A photo as it is kept: reduced, and without what the camera wrote beside it. */
export interface Reduced {
  readonly data: Blob;
  readonly hash: string;
  readonly width: number;
  readonly height: number;
  /** The camera had written the place into it; it is gone. */
  readonly hadPlace: boolean;
}

export type Reduction =
  { readonly ok: true; readonly photo: Reduced } | { readonly ok: false; readonly because: string };

const QUALITIES = [0.82, 0.7, 0.55] as const;
/** As the server takes it at most. */
const MOST_BYTES = 2 * 1024 * 1024;
/** More than a camera makes; what is larger is no photo of one. */
const MOST_FILE_BYTES = 60 * 1024 * 1024;

const NO_PICTURE =
  'This cannot be read as a picture. Take a photo, or choose a JPEG or PNG; a camera’s own raw form and some newer forms cannot be read here.';

/** Reduces a picture to the size that is kept, away from the screen's own thread. */
async function reduce(file: Blob): Promise<Reduction> {
  if (file.size === 0) return { ok: false, because: 'The file is empty.' };
  if (file.size > MOST_FILE_BYTES)
    return {
      ok: false,
      because: `The file has ${Math.round(file.size / 1e6)} MB; a photo has at most ${MOST_FILE_BYTES / 1024 / 1024}. Choose the photo itself.`,
    };
  let picture: ImageBitmap;
  try {
    picture = await createImageBitmap(file, { imageOrientation: 'from-image' });
  } catch {
    return { ok: false, because: NO_PICTURE };
  }
  const share = Math.min(1, PHOTO_SIDE / Math.max(picture.width, picture.height));
  const width = Math.max(1, Math.round(picture.width * share));
  const height = Math.max(1, Math.round(picture.height * share));
  const canvas = new OffscreenCanvas(width, height);
  const pen = canvas.getContext('2d');
  if (!pen) return { ok: false, because: NO_PICTURE };
  // What lets the light through stands on white.
  pen.fillStyle = '#fff';
  pen.fillRect(0, 0, width, height);
  pen.drawImage(picture, 0, 0, width, height);
  picture.close();
  for (const quality of QUALITIES) {
    const data = await canvas.convertToBlob({ type: 'image/jpeg', quality });
    if (data.size > MOST_BYTES) continue;
    const hash = bytesToHex(sha256(new Uint8Array(await data.arrayBuffer())));
    return { ok: true, photo: { data, hash, width, height, hadPlace: await placeIn(file) } };
  }
  return { ok: false, because: NO_PICTURE };
}

async function placeIn(file: Blob): Promise<boolean> {
  try {
    const place = (await gps(file)) as { latitude?: number } | undefined;
    return place?.latitude !== undefined;
  } catch {
    return false;
  }
}

const worker = { reduce };
export type PhotoWorker = typeof worker;
expose(worker);
