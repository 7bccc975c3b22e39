// A corpus of small files as loggers, controllers and phones write them, each with what must come out. Made from one signal, by a seed.
import { utf8ToBytes } from '@noble/hashes/utils.js';
import { CELLS } from './testing.cells.js';
import { CLOCKS } from './testing.clocks.js';
import { DT, text, usual, type CorpusFile, type Expected, type Form } from './testing.form.js';

export type { CorpusFile, Expected } from './testing.form.js';

const utf8 = utf8ToBytes;

const encoded = (name: string, bytes: Uint8Array, expected: Expected): CorpusFile => ({
  name,
  bytes,
  expected,
});
const PLAIN: Form = { heading: ['Time (s)', 'Pressure (psi)'], row: (i, p) => [i * DT, p] };

function wide(t: string, little: boolean, mark: boolean): Uint8Array {
  const units = [...(mark ? '\uFEFF' : ''), ...t].map((c) => c.charCodeAt(0));
  return Uint8Array.from(units.flatMap((u) => (little ? [u & 255, u >> 8] : [u >> 8, u & 255])));
}

/** Every file of the corpus. */
export const corpus = (): readonly CorpusFile[] => [
  ...[...CLOCKS, ...CELLS].map(([name, form, expected]) => encoded(name, utf8(text(form)), expected)),
  encoded('a mark before it', Uint8Array.from([0xef, 0xbb, 0xbf, ...utf8(text(PLAIN))]), usual()),
  encoded('two bytes a character, little end first', wide(text(PLAIN), true, true), usual()),
  encoded('two bytes a character, unmarked', wide(text(PLAIN), true, false), usual()),
  encoded('two bytes a character, big end first', wide(text(PLAIN), false, true), usual()),
  encoded(
    'one byte a character',
    Uint8Array.from(
      [
        ...text({
          ...PLAIN,
          heading: ['Time (s)', 'Temp (\u00b0F)', 'Pressure (psi)'],
          row: (i, p) => [i * DT, 70, p],
        }),
      ].map((c) => c.charCodeAt(0)),
    ),
    usual(),
  ),
  encoded('a workbook', Uint8Array.from([0x50, 0x4b, 3, 4, 20, 0]), { refused: 'not-a-table' }),
  encoded('a PDF', utf8('%PDF-1.7\n1 0 obj'), { refused: 'not-a-table' }),
  encoded('a picture', Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 13, 10]), { refused: 'not-a-table' }),
  encoded('a page', utf8('<!DOCTYPE html><html><body>Sign in</body></html>'), { refused: 'not-a-table' }),
  encoded('JSON', utf8('{"readings":[{"t":0,"p":50}]}'), { refused: 'not-a-table' }),
  encoded('packed', Uint8Array.from([0x1f, 0x8b, 8, 0]), { refused: 'not-a-table' }),
  encoded('nothing', new Uint8Array(), { refused: 'trace-empty' }),
  encoded('words', utf8('Dear colleague,\nplease find nothing here.\n'), { refused: 'no-readings' }),
];
