// Draws the pictures of docs/motion.md anew: `node scripts/figures.mjs [folder]`.
import { runTs } from './run-ts.mjs';

process.exitCode = await runTs('bench/src/figures/index.ts', process.argv.slice(2));
