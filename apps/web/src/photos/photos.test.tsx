import 'fake-indexeddb/auto';
import { afterEach, beforeAll, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, render, screen, waitFor } from '@testing-library/react';
import type { Reduced, Reduction } from '../workers/photo.worker.ts';
import { withDb } from '../sync/db.ts';
import { outbox } from '../sync/outbox.ts';
import { serverThat } from '../testingServer.ts';
import type { Photo as PhotoOf } from './Photo.tsx';
import type { PhotoDialog as DialogOf, TakenPhoto } from './PhotoDialog.tsx';

/** What the worker says of a picture. */
let reduction: () => Promise<Reduction>;
const workers: { error: () => void; terminated: boolean }[] = [];
jest.mock('comlink', () => ({
  proxy: <T,>(f: T): T => f,
  wrap: () => ({ reduce: () => reduction() }),
}));
let Photo: typeof PhotoOf;
let PhotoDialog: typeof DialogOf;
beforeAll(async () => {
  globalThis.Worker = class {
    terminated = false;
    error: () => void = () => undefined;
    constructor() {
      workers.push(this);
    }
    addEventListener(_: string, said: () => void): void {
      this.error = said;
    }
    terminate(): void {
      this.terminated = true;
    }
  } as unknown as typeof Worker;
  ({ Photo } = await import('./Photo.tsx'));
  ({ PhotoDialog } = await import('./PhotoDialog.tsx'));
});

const urls: Blob[] = [];
const revoked: string[] = [];
beforeEach(() => {
  urls.length = 0;
  revoked.length = 0;
  URL.createObjectURL = (blob) => `blob:${urls.push(blob as Blob)}`;
  URL.revokeObjectURL = (url) => void revoked.push(url);
  serverThat(() => undefined);
});
afterEach(() => outbox.use(undefined));

const taken = (over: Partial<Reduced> = {}): Reduced => ({
  data: new Blob(['smaller'], { type: 'image/jpeg' }),
  hash: 'a'.repeat(64),
  width: 1200,
  height: 900,
  hadPlace: false,
  ...over,
});
const choose = (name = 'plate.jpg'): void => {
  fireEvent.change(screen.getByLabelText('Photo'), { target: { files: [new File(['large'], name)] } });
};
const dialog = (onKeep: (p: TakenPhoto) => Promise<boolean>) => {
  const onClose = jest.fn<() => void>();
  render(<PhotoDialog title="Photo of the plate" onKeep={onKeep} onClose={onClose} />);
  return onClose;
};

describe('a photo that is taken', () => {
  it('is looked at, named, kept on this device first, and entered by its hash', async () => {
    outbox.use('u');
    reduction = () => Promise.resolve({ ok: true, photo: taken({ hadPlace: true }) });
    const onKeep = jest.fn<(p: TakenPhoto) => Promise<boolean>>().mockImplementation(async (p) => {
      // By now its bytes are on the disk.
      expect((await withDb((db) => db.get('blobs', p.hash)))?.sent).toBe(0);
      return true;
    });
    const onClose = dialog(onKeep);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Keep the photo' }).disabled).toBe(true);
    choose();
    expect(await screen.findByAltText('The photo as it will be kept')).toBeTruthy();
    expect(screen.getByText(/written the place into it. That was taken out/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText('What it shows'), { target: { value: '  the plate ' } });
    fireEvent.click(screen.getByRole('button', { name: 'Keep the photo' }));
    await waitFor(() => expect(onClose).toHaveBeenCalledTimes(1));
    expect(onKeep).toHaveBeenCalledWith({
      hash: 'a'.repeat(64),
      width: 1200,
      height: 900,
      text: 'the plate',
    });
  });

  it('that cannot be reduced, entered or kept is said so, and the window stays', async () => {
    outbox.use('u');
    reduction = () => Promise.resolve({ ok: false, because: 'That is no picture.' });
    const onClose = dialog(() => Promise.resolve(false));
    choose('notes.txt');
    expect((await screen.findByRole('alert')).textContent).toBe('That is no picture.');
    reduction = () => Promise.reject(new Error('no room'));
    choose();
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('Try a smaller one'));
    reduction = () => Promise.resolve({ ok: true, photo: taken({ hash: 'b'.repeat(64) }) });
    choose();
    await screen.findByAltText('The photo as it will be kept');
    expect(screen.queryByRole('alert')).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Keep the photo' }));
    expect((await screen.findByRole('alert')).textContent).toContain('It was not entered');
    // Nobody is signed in any more: nothing is kept in another's name.
    outbox.use(undefined);
    fireEvent.click(screen.getByRole('button', { name: 'Keep the photo' }));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('could not keep the photo'));
    expect(onClose).not.toHaveBeenCalled();
  });

  it('says where what reduces it is not on this device yet, and asks for it anew the next time', async () => {
    reduction = () => new Promise(() => undefined);
    dialog(() => Promise.resolve(true));
    choose();
    expect(await screen.findByRole('button', { name: 'Reducing …' })).toBeTruthy();
    const before = workers.length;
    act(() => workers.at(-1)?.error());
    expect((await screen.findByRole('alert')).textContent).toContain('is not on this device yet');
    expect(workers.at(-1)?.terminated).toBe(true);
    reduction = () => Promise.resolve({ ok: true, photo: taken({ hash: 'c'.repeat(64) }) });
    choose();
    expect(await screen.findByAltText('The photo as it will be kept')).toBeTruthy();
    expect(workers.length).toBe(before + 1);
  });
});

describe('a photo that is shown', () => {
  const shown = (hash: string, text = '') => render(<Photo hash={hash} text={text} width={4} height={3} />);

  it('is had from this device where it is here, and let go of when it leaves the screen', async () => {
    outbox.use('u');
    await outbox.keepBlob('d'.repeat(64), new Blob(['here']));
    const { unmount } = shown('d'.repeat(64), 'the plate');
    const picture = await screen.findByAltText('the plate');
    expect(picture.getAttribute('src')).toBe('blob:1');
    expect(picture.closest('a')?.getAttribute('rel')).toBe('noreferrer');
    unmount();
    expect(revoked).toEqual(['blob:1']);
  });

  it('is else the server’s, and says where it is while it has not arrived there', async () => {
    shown('e'.repeat(64));
    const picture = await screen.findByAltText('Photo');
    expect(picture.getAttribute('src')).toBe(`/api/v1/photos/${'e'.repeat(64)}`);
    fireEvent.error(picture);
    expect(screen.getByText('Still on the device that took it')).toBeTruthy();
  });
});
