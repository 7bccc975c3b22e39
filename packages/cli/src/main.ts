import { answer, answerLines } from './index.js';

// Whoever reads the answer may stop reading: that is no failure of ours.
process.stdout.on('error', (e: NodeJS.ErrnoException) => {
  if (e.code === 'EPIPE') process.exit(0);
  throw e;
});
const args = process.argv.slice(2);
if (args.includes('--lines'))
  process.exitCode = await answerLines(args, (line) => process.stdout.write(`${line}\n`));
else {
  const { out, code } = await answer(args);
  process.stdout.write(`${JSON.stringify(out)}\n`);
  process.exitCode = code;
}
