import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { fileUrl, giveFile, zoneHere } from './files.ts';

const clicked: HTMLAnchorElement[] = [];
let answer: () => Promise<Response>;
const sharing = (over: Partial<Navigator>): void => void Object.assign(navigator, over);

beforeEach(() => {
  clicked.length = 0;
  globalThis.fetch = jest.fn(() => answer()) as typeof fetch;
  URL.createObjectURL = () => 'blob:here';
  URL.revokeObjectURL = () => undefined;
  jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
    clicked.push(this);
  });
});
afterEach(() => {
  jest.restoreAllMocks();
  for (const name of ['canShare', 'share']) Reflect.deleteProperty(navigator, name);
});
/** An answer of the server; the simulated browser has none of its own. */
const said = (status: number, body: unknown): Response =>
  ({
    ok: status < 400,
    status,
    blob: () => Promise.resolve(new Blob(['%PDF'], { type: 'application/pdf' })),
    json: () => (body === undefined ? Promise.reject(new Error('no JSON')) : Promise.resolve(body)),
  }) as Response;

describe('a file that is handed over', () => {
  it('is asked for in the time of this device', () => {
    const url = new URL(fileUrl('/jobs/1/sheet.pdf', { copy: 'yes & no' }), 'http://here');
    expect(url.pathname).toBe('/api/v1/jobs/1/sheet.pdf');
    expect(Object.fromEntries(url.searchParams)).toEqual({ zone: zoneHere(), copy: 'yes & no' });
  });

  it('is downloaded under its name where the device shares no files', async () => {
    answer = () => Promise.resolve(said(200, {}));
    expect(await giveFile('/x', 'sheet.pdf')).toBe('downloaded');
    expect(clicked.map((a) => [a.download, a.href])).toEqual([['sheet.pdf', 'blob:here']]);
    sharing({ canShare: () => false, share: () => Promise.reject(new Error('never asked')) });
    expect(await giveFile('/x', 'sheet.pdf')).toBe('downloaded');
  });

  it('goes to the device’s own sharing where there is one; called off there it is not downloaded behind one’s back', async () => {
    answer = () => Promise.resolve(said(200, {}));
    const share = jest.fn<Navigator['share']>(() => Promise.resolve());
    sharing({ canShare: () => true, share });
    expect(await giveFile('/x', 'tag.pdf')).toBe('shared');
    const [shared] = share.mock.calls[0] ?? [];
    expect([shared?.title, shared?.files?.[0]?.name, shared?.files?.[0]?.type]).toEqual([
      'tag.pdf',
      'tag.pdf',
      'application/pdf',
    ]);
    share.mockImplementation(() => Promise.reject(new DOMException('no', 'AbortError')));
    expect(await giveFile('/x', 'tag.pdf')).toBe('cancelled');
    expect(clicked).toEqual([]);
    // Where sharing itself fails the file is not lost.
    share.mockImplementation(() => Promise.reject(new DOMException('no', 'NotAllowedError')));
    expect(await giveFile('/x', 'tag.pdf')).toBe('downloaded');
  });

  it('that the server does not write is refused with what it says', async () => {
    answer = () => Promise.resolve(said(409, { detail: 'The job is open.', remedy: 'Sign it first.' }));
    expect(await giveFile('/x', 'a')).toEqual({ failed: 'The job is open. Sign it first.' });
    answer = () => Promise.resolve(said(500, {}));
    expect(await giveFile('/x', 'a')).toEqual({ failed: 'The server could not write the file.' });
    answer = () => Promise.resolve(said(502, undefined));
    expect(await giveFile('/x', 'a')).toEqual({ failed: 'The server could not write the file.' });
    answer = () => Promise.reject(new TypeError('no line'));
    expect(await giveFile('/x', 'a')).toMatchObject({
      failed: expect.stringContaining('No connection') as unknown,
    });
    expect(clicked).toEqual([]);
  });
});
