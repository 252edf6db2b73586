import { rmSync } from 'node:fs';

/** Removes what the first visits left. */
export default function tearDown() {
  for (const [name, folder] of Object.entries(process.env))
    if (name.startsWith('WARPER_E2E_PROFILE')) rmSync(folder, { recursive: true, force: true });
}
