import { run } from './main';

process.exitCode = await run(process.argv.slice(2), {
  out: (text) => void process.stdout.write(text),
  err: (text) => void process.stderr.write(text),
  isTerminal: process.stderr.isTTY === true,
});
