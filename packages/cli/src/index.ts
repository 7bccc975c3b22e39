import type { Refusal } from '@firm-needle/core/result';
import { createInterface } from 'node:readline';
import { readFileSync } from 'node:fs';
import { errorOf, no, Refused } from './answer.js';
import { adviseOne } from './commands/advise.js';
import { familiesCommand, judge, planCommand } from './commands/plans.js';
import { convertCommand, ptCommand } from './commands/quantities.js';
import { traceCommand, traceFile } from './commands/traces.js';
import { TRACE_OPTIONS } from './commands/traces/said.js';
import { simulateCommand } from './commands/traces/simulate.js';
import { optionsOf, type Options } from './options.js';

interface Command {
  readonly does: string;
  readonly example: string;
  /** What it takes, each with what it is; others are refused. */
  readonly options?: Readonly<Record<string, string>>;
  run(o: Options): object | Promise<object>;
  /** One line in, one answer out, where the command can. */
  line?(text: string, o: Options): object | Promise<object>;
}

/** A request as an object of names and values, which is all that any command takes. */
const json = (text: string): object => {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    no('not-json', 'The request is not JSON.', { where: 'file' });
  }
  if (typeof read !== 'object' || read === null || Array.isArray(read))
    return no('not-an-object', 'The request is no object of names and values.', {
      where: 'file',
      remedy: 'Such as {"reading_Pa": 300000, "u_Pa": 500, "lower_Pa": 290000}.',
    });
  return read;
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

const AIR = {
  '--ambient': 'the air outside, with its unit',
  '--altitude': 'of the site, with its unit',
} as const;
const LINES = { '--lines': 'one request a line on standard input, one answer a line' } as const;

export const COMMANDS: Readonly<Record<string, Command>> = {
  convert: {
    does: 'a value in another unit',
    example: 'convert 11.2 inH2O psi',
    options: AIR,
    run: convertCommand,
  },
  pt: {
    does: 'saturation pressure or temperature',
    example: 'pt R410A 71 degF',
    options: { '--at': 'a pressure with its unit, for the temperature there', ...AIR },
    run: ptCommand,
  },
  plan: {
    does: 'settings, limits and findings of a plan',
    example:
      'plan well-switch --set cutIn=44psi --plate tankVolume=80galUS --plate pumpFlow=10gpm --plate relief=82psi',
    options: {
      '--set': 'NAME=VALUE, a setting that is given; may stand several times',
      '--plate': 'NAME=VALUE, of the plate; may stand several times',
      '--variant': 'of the control',
      '--school': 'rules that its settings follow',
      ...AIR,
    },
    run: planCommand,
  },
  judge: {
    does: 'in, near or out, with the reason',
    example: 'judge reading.json',
    options: LINES,
    run: (o) => judge(json(fileOf(o)) as Judge),
    line: (text) => judge(json(text) as Judge),
  },
  advise: {
    does: 'how far to turn next',
    example: 'advise request.json',
    options: LINES,
    run: (o) => adviseOne(json(fileOf(o)) as Advise),
    line: (text) => adviseOne(json(text) as Advise),
  },
  simulate: {
    does: 'a rig’s trace as CSV, and what the rig knows',
    example: 'simulate well-switch --seed 3 --seconds 900 --rate 10 --out trace.csv',
    options: {
      '--seed': 'whole number',
      '--seconds': 'up to 1 000 000',
      '--rate': 'samples a second',
      '--fault': 'may stand several times',
      '--scenario': 'a run of its rig',
      '--out': 'where the CSV goes',
      '--variant': 'of the control',
      '--plate': 'NAME=VALUE, of the plate; may stand several times',
      ...AIR,
    },
    run: simulateCommand,
  },
  trace: {
    does: 'figures, events and cycles of a logger’s file',
    example: 'trace trace.csv --family well-switch',
    options: TRACE_OPTIONS,
    run: traceCommand,
    line: (text, o) => traceFile(text.trim(), o.one('family') ?? '', o),
  },
  families: { does: 'what kinds of control there are', example: 'families', run: familiesCommand },
};

const told = ({ does, example, options }: Command): object => ({
  does,
  example,
  ...(options ? { options } : {}),
});

const help = (): object => ({
  usage: 'npm run --silent needle -- COMMAND …',
  files: '- as a file reads standard input',
  exit: { 0: 'answered', 2: 'refused: error.code, message, at, bound, remedy' },
  units: 'pressures out are gauge Pa unless the key says otherwise; times are s',
  commands: Object.entries(COMMANDS).map(([name, c]) => ({ name, ...told(c) })),
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
    if (o.has('help')) return { out: { name, ...told(command) }, code: 0 };
    const odd = o.names.find((n) => !Object.hasOwn(command.options ?? {}, `--${n}`));
    if (odd)
      no('option-unknown', `"${name}" takes no --${odd}.`, {
        where: `--${odd}`,
        bound: Object.keys(command.options ?? {}).join(', ') || 'none',
      });
    return { out: await command.run(o), code: 0 };
  } catch (e) {
    return { out: errorOf(refusalOf(e)), code: 2 };
  }
}

/** What stopped an answer: a refusal, or input of a shape that nobody foresaw; never a stack. */
const refusalOf = (e: unknown): Refusal =>
  e instanceof Refused
    ? e.refusal
    : {
        code: 'not-a-request',
        message: `That is no request that can be answered: ${e instanceof Error ? e.message : String(e)}.`,
        remedy: 'See --help for what it takes.',
      };

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
      write(JSON.stringify(errorOf(refusalOf(e))));
    }
  }
  return 0;
}
