import { mkdir, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { makeDemonstration } from './demonstration';

/** Writes the demonstration's files into a folder, which is emptied first. */
const folder = process.argv[2] ?? 'demo/made';
await rm(folder, { recursive: true, force: true });
await mkdir(folder, { recursive: true });
for (const [name, bytes] of await makeDemonstration()) {
  await writeFile(join(folder, name), bytes);
  console.log(`${name.padEnd(34)}${String(bytes.length).padStart(9)} bytes`);
}
