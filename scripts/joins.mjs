// Measures random joins as a table: `npm run joins [count] [seed] [capture.bvh ...]`.
import { runTs } from './run-ts.mjs';

process.exitCode = await runTs('bench/src/joins/index.ts', process.argv.slice(2));
