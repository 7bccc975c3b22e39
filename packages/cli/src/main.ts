import { answer, answerLines } from './index.js';

const args = process.argv.slice(2);
if (args.includes('--lines'))
  process.exitCode = await answerLines(args, (line) => process.stdout.write(`${line}\n`));
else {
  const { out, code } = await answer(args);
  process.stdout.write(`${JSON.stringify(out)}\n`);
  process.exitCode = code;
}
