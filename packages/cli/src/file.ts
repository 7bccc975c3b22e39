import type { FeedOptions } from '@firm-needle/core/trace';
import { readFile, type FileRead } from '@firm-needle/tables';
import { createReadStream, existsSync, statSync } from 'node:fs';
import { must, no } from './answer.js';

const PIECE = 1 << 20;
/** Reading that takes longer than this is told of, and how often, ms. */
const PATIENCE_MS = 2000;

/** Tells on standard error how far it is, once it takes long. */
function telling(name: string, size: number | undefined): (bytes: number) => void {
  let next = performance.now() + PATIENCE_MS;
  return (bytes) => {
    const now = performance.now();
    if (now < next) return;
    next = now + PATIENCE_MS;
    const part = size
      ? `${Math.min(99, Math.floor((100 * bytes) / size))} %`
      : `${Math.round(bytes / 1e6)} MB`;
    process.stderr.write(`${name}: ${part} read\n`);
  };
}

/** Reads a logger's file, a piece at a time; the file itself never stands in memory. `-` is standard input; a pipe is read to its end. */
export async function readTable(path: string, options: FeedOptions): Promise<FileRead> {
  const stat = path === '-' || !existsSync(path) ? undefined : statSync(path);
  if (path !== '-' && !stat) no('file-missing', `There is no file "${path}".`, { where: 'file' });
  if (stat?.isDirectory())
    no('file-folder', `"${path}" is a folder.`, { where: 'file', remedy: 'Name a file, or use --summary.' });
  const size = stat?.isFile() ? stat.size : undefined;
  // A file that grows while it is read is read as it stood.
  const input =
    path === '-'
      ? process.stdin
      : createReadStream(path, { highWaterMark: PIECE, ...(size ? { end: size - 1 } : {}) });
  try {
    return must(await readFile(input, { ...options, size, progress: telling(path, size) }));
  } catch (e) {
    if (e instanceof Error && 'syscall' in e)
      return no('file-unreadable', `The file "${path}" could not be read: ${e.message}.`, { where: 'file' });
    throw e;
  }
}
