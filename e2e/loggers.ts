// Files as loggers would have written them, in a directory of their own.
import { createWriteStream, mkdtempSync, writeFileSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export const dir = mkdtempSync(join(tmpdir(), 'fn-traces-'));

/** A saw of a pump's cycles between two pressures, ten samples a second, with a little noise. */
export async function saw(name: string, samples: number, cutIn: number, cutOut: number): Promise<string> {
  const path = join(dir, name);
  const file = createWriteStream(path);
  let text = 't_s,p_psi\n';
  let p = cutIn + 3;
  let rising = false;
  let noise = 1;
  for (let i = 0; i < samples; i++) {
    p += rising ? 0.032 : -0.021;
    if (p <= cutIn) rising = true;
    else if (p >= cutOut) rising = false;
    noise = (noise * 16807) % 2147483647;
    text += `${(i / 10).toFixed(1)},${(p + (noise / 2147483647 - 0.5) * 0.2).toFixed(2)}\n`;
    if (text.length > 1 << 20) {
      if (!file.write(text)) await once(file, 'drain');
      text = '';
    }
  }
  file.end(text);
  await once(file, 'finish');
  return path;
}

/** Cycles between 30 and 50 as a logger writes them that says neither what it measured nor in what. */
export function unnamed(name: string, cutIn = 30): string {
  const rows: string[] = [];
  let [p, rising] = [cutIn + 2, false];
  for (let i = 0; i < 9000; i++) {
    p += rising ? 0.03 : -0.02;
    if (p <= cutIn) rising = true;
    else if (p >= 50) rising = false;
    rows.push(`${i / 10};20;${p.toFixed(2)}`);
  }
  const path = join(dir, name);
  writeFileSync(path, ['Elapsed;Room;Port 1', ...rows].join('\n'));
  return path;
}
