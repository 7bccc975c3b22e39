import type { Page } from '@playwright/test';

/** A photo as a phone makes one: large, and with the place written into it. */
export async function cameraPhoto(page: Page): Promise<Buffer> {
  const base64 = await page.evaluate(async () => {
    const canvas = new OffscreenCanvas(2400, 1800);
    const pen = canvas.getContext('2d');
    if (!pen) throw new Error('no pen');
    pen.fillStyle = '#b8c0c4';
    pen.fillRect(0, 0, 2400, 1800);
    pen.fillStyle = '#222';
    pen.font = '220px sans-serif';
    pen.fillText('RATING 145 psi', 200, 700);
    pen.fillText('No 4471 · 1998', 200, 1100);
    const data = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/jpeg' })).arrayBuffer());
    let text = '';
    for (const byte of data) text += String.fromCharCode(byte);
    return btoa(text);
  });
  const jpeg = Buffer.from(base64, 'base64');
  const place = placeSegment();
  return Buffer.concat([jpeg.subarray(0, 2), place, jpeg.subarray(2)]);
}

/** An EXIF segment that says 12° 30′ north, 45° 15′ west, written by the TIFF tables of the standard (from memory). */
function placeSegment(): Buffer {
  const tiff = Buffer.alloc(200);
  tiff.write('II', 0, 'latin1');
  tiff.writeUInt16LE(42, 2);
  tiff.writeUInt32LE(8, 4);
  tiff.writeUInt16LE(1, 8);
  const entry = (at: number, tag: number, type: number, count: number, value: number | string): void => {
    tiff.writeUInt16LE(tag, at);
    tiff.writeUInt16LE(type, at + 2);
    tiff.writeUInt32LE(count, at + 4);
    if (typeof value === 'string') tiff.write(value, at + 8, 'latin1');
    else tiff.writeUInt32LE(value, at + 8);
  };
  const gps = 26;
  entry(10, 0x8825, 4, 1, gps);
  tiff.writeUInt16LE(4, gps);
  entry(gps + 2, 1, 2, 2, 'N');
  entry(gps + 14, 2, 5, 3, 90);
  entry(gps + 26, 3, 2, 2, 'W');
  entry(gps + 38, 4, 5, 3, 114);
  [12, 30, 0, 45, 15, 0].forEach((n, i) => {
    tiff.writeUInt32LE(n, 90 + 8 * i);
    tiff.writeUInt32LE(1, 94 + 8 * i);
  });
  const body = Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), tiff]);
  const head = Buffer.from([0xff, 0xe1, 0, 0]);
  head.writeUInt16BE(body.length + 2, 2);
  return Buffer.concat([head, body]);
}
