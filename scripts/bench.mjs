// Benchmarks: each measures a peer in the same run and prints a ratio.
import { runTs } from './run-ts.mjs';

process.exitCode = await runTs('bench/src/main.ts', process.argv.slice(2));
