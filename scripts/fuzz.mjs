// Damages real files over and over and reads them: `node scripts/fuzz.mjs [times a file]`.
import { runTs } from './run-ts.mjs';

process.exitCode = await runTs('bench/src/fuzz.ts', process.argv.slice(2));
