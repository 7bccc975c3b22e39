/** Control characters, and those that turn the way of writing about or take no room: a name with one is not what it looks like. */
const UNSEEN = /[\p{Cc}\u200b\u200e\u200f\u202a-\u202e\u2060\u2066-\u2069\ufeff]/u;
/** Ends of lines and tabs, where there may be several lines. */
const LINE_ENDS = /[\t\n\r]/g;

/** What a typed text must be to be kept; the same on the device that keeps it for later as on the server. */
export interface WordsBound {
  /** Most characters. */
  readonly most: number;
  readonly needed?: boolean;
  /** May have line ends. */
  readonly lines?: boolean;
}

/** As it is kept: composed, and without the spaces around it. */
export const tidied = (text: string): string => text.normalize('NFC').trim();

/** What is wrong with a tidied text, as the end of a sentence that begins with its field; undefined where nothing is. */
export function wordsWrong(
  text: string,
  { most, needed = false, lines = false }: WordsBound,
): string | undefined {
  if (needed && text === '') return 'is empty: type a name';
  if (text.length > most) return `is longer than ${most} characters: shorten it`;
  if (UNSEEN.test(lines ? text.replace(LINE_ENDS, '') : text))
    return 'holds a character that cannot be seen: type it again';
  return undefined;
}
