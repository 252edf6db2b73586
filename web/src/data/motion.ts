import { MotionClient } from '../workers/client';

/** The page's workers. */
export const motion = new MotionClient(
  () => new Worker(new URL('./motion.worker.ts', import.meta.url), { type: 'module' }),
);
