import { parentPort } from 'node:worker_threads';
import type { ThreadWork } from './baking';
import { bakeTenMinutes } from './baking';
import { makeMotion, makeRig } from './rig';

/** Additions that take about as long as the bake. */
const ADDITIONS = 4e8;

/** Does each time what it is told to, and says when it is done. */
const skeleton = makeRig(65);
const bake = bakeTenMinutes(skeleton, makeMotion(skeleton, 400, 0, 'a'), makeMotion(skeleton, 400, 1.3, 'b'));
function count(): number {
  let sum = 1;
  for (let i = 0; i < ADDITIONS; i++) sum = sum * 1.0000001 + 1e-9;
  return sum;
}
parentPort?.on('message', (what: ThreadWork) => {
  const result = what === 'bake' ? bake() : count();
  parentPort?.postMessage(result ?? 'done');
});
