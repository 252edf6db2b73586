import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import * as pictures from './pictures';

/** Draws the pictures of docs/motion.md, each from the motion itself, into the folder that is named. */
const folder = process.argv[2] ?? 'docs/figures';
for (const [name, draw] of Object.entries(pictures)) {
  writeFileSync(join(folder, `${name.replace('Picture', '')}.svg`), draw());
  console.log(name.replace('Picture', ''));
}
