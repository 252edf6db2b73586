// Makes the demonstration anew: `npm run demo [folder]`.
import { runTs } from './run-ts.mjs';

process.exitCode = await runTs('demo/src/generate.ts', process.argv.slice(2));
