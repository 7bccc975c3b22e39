import { createInterface } from 'node:readline';
import { readFileSync } from 'node:fs';
import { errorOf, no, Refused } from './answer.js';
import { adviseOne } from './commands/advise.js';
import { familiesCommand, judge, planCommand } from './commands/plans.js';
import { convertCommand, ptCommand } from './commands/quantities.js';
import { simulateCommand, traceCommand, traceFile } from './commands/traces.js';
import { optionsOf, type Options } from './options.js';

interface Command {
  readonly does: string;
  readonly example: string;
  run(o: Options): object | Promise<object>;
  /** One line in, one answer out, where the command can. */
  line?(text: string, o: Options): object | Promise<object>;
}

const json = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    return no('not-json', 'The request is not JSON.', { where: 'file' });
  }
};

const fileOf = (o: Options): string => {
  const path = o.words[0];
  if (path === undefined) no('file-missing', 'Name a file, or - for standard input.', { where: 'file' });
  try {
    return readFileSync(path === '-' ? 0 : (path ?? ''), 'utf8');
  } catch {
    return no('file-missing', `There is no file "${path ?? ''}".`, { where: 'file' });
  }
};

type Judge = Parameters<typeof judge>[0];
type Advise = Parameters<typeof adviseOne>[0];

export const COMMANDS: Readonly<Record<string, Command>> = {
  convert: { does: 'a value in another unit', example: 'convert 11.2 inH2O psi', run: convertCommand },
  pt: { does: 'saturation pressure or temperature', example: 'pt R410A 71 degF', run: ptCommand },
  plan: {
    does: 'settings, limits and findings of a plan',
    example:
      'plan well-switch --set cutIn=44psi --plate tankVolume=80galUS --plate pumpFlow=10gpm --plate relief=82psi',
    run: planCommand,
  },
  judge: {
    does: 'in, near or out, with the reason',
    example: 'judge reading.json',
    run: (o) => judge(json(fileOf(o)) as Judge),
    line: (text) => judge(json(text) as Judge),
  },
  advise: {
    does: 'how far to turn next',
    example: 'advise request.json',
    run: (o) => adviseOne(json(fileOf(o)) as Advise),
    line: (text) => adviseOne(json(text) as Advise),
  },
  simulate: {
    does: 'a rig’s trace as CSV, and what the rig knows',
    example: 'simulate well-switch --seed 3 --seconds 900 --rate 10 --out trace.csv',
    run: simulateCommand,
  },
  trace: {
    does: 'figures, events and cycles of a logger’s file',
    example: 'trace trace.csv --family well-switch',
    run: traceCommand,
    line: (text, o) => traceFile(text.trim(), o.one('family') ?? '', o),
  },
  families: { does: 'what kinds of control there are', example: 'families', run: familiesCommand },
};

const help = (): object => ({
  usage: 'npm run --silent needle -- COMMAND …',
  commands: Object.entries(COMMANDS).map(([name, c]) => ({ name, does: c.does, example: c.example })),
});

/** The answer to one call, and the code the program ends with: 0, or 2 for a refusal. */
export async function answer(
  args: readonly string[],
): Promise<{ readonly out: object; readonly code: 0 | 2 }> {
  const [name, ...rest] = args;
  try {
    if (name === undefined || name === '--help' || name === 'help') return { out: help(), code: 0 };
    const command = COMMANDS[name];
    if (!command)
      return no('command-unknown', `"${name}" is no command.`, {
        where: 'command',
        bound: Object.keys(COMMANDS).join(', '),
        remedy: 'See --help.',
      });
    const o = optionsOf(rest);
    if (o.has('help')) return { out: { name, does: command.does, example: command.example }, code: 0 };
    return { out: await command.run(o), code: 0 };
  } catch (e) {
    if (e instanceof Refused) return { out: errorOf(e.refusal), code: 2 };
    throw e;
  }
}

/** `--lines`: one request a line, one answer a line, in order, until the input ends. A refused line is answered as refused. */
export async function answerLines(args: readonly string[], write: (line: string) => void): Promise<0 | 2> {
  const [name = '', ...rest] = args;
  const command = COMMANDS[name];
  if (!command?.line) {
    write(JSON.stringify(errorOf({ code: 'lines-unknown', message: `"${name}" does not answer lines.` })));
    return 2;
  }
  const o = optionsOf(rest);
  for await (const text of createInterface({ input: process.stdin, crlfDelay: Infinity })) {
    if (text.trim() === '') continue;
    try {
      write(JSON.stringify(await command.line(text, o)));
    } catch (e) {
      if (!(e instanceof Refused)) throw e;
      write(JSON.stringify(errorOf(e.refusal)));
    }
  }
  return 0;
}
