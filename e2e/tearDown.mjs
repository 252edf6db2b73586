import { rmSync } from 'node:fs';

/** Removes what the first visit left. */
export default function tearDown() {
  rmSync(process.env.WARPER_E2E_PROFILE, { recursive: true, force: true });
}
