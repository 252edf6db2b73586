import { expose } from 'comlink';
import { MotionDesk } from '../workers/motionDesk';
import { db } from './db';
import { applySteps } from './ownSteps';

expose(
  new MotionDesk({
    file: (id) => db.files.get(id),
    mappings: () => db.mappings.toArray(),
    applySteps,
  }),
);
