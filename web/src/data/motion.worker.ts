import { expose } from 'comlink';
import { MotionDesk } from '../workers/motionDesk';
import { db } from './db';
import { filesWithoutEntries } from './clipEntries';
import { applySteps } from './ownSteps';

expose(
  new MotionDesk({
    file: (id) => db.files.get(id),
    mappings: () => db.mappings.toArray(),
    applySteps,
    entries: () => db.entries.toArray(),
    filesWithoutEntries,
    keepEntries: async (entries) => void (await db.entries.bulkPut([...entries])),
  }),
);
