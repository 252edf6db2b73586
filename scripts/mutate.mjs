// `npm run mutate [word]`: changes the core one line at a time, each breaking a law, and sees whether a test fails.
import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { MUTATIONS } from './mutations.mjs';

const word = process.argv[2] ?? '';
const jest = [
  '--import',
  './scripts/testing/hooks.mjs',
  'node_modules/jest/bin/jest.js',
  '--bail',
  '--silent',
];
let restore = () => undefined;
process.on('SIGINT', () => {
  restore();
  process.exit(130);
});

const survived = [];
let tried = 0;
for (const [law, name, from, to, tests] of MUTATIONS) {
  if (!law.includes(word) && !name.includes(word)) continue;
  const file = `core/src/${name}`;
  const source = readFileSync(file, 'utf8');
  if (!source.includes(from))
    throw new Error(`${file} has no "${from}"; put the mutation of "${law}" right.`);
  tried++;
  restore = () => writeFileSync(file, source);
  writeFileSync(
    file,
    source.replace(from, () => to),
  );
  const folders = tests.split(' ').map((t) => (/^(demo|formats)\//.test(t) ? t : `core/src/${t}`));
  const { status } = spawnSync(process.execPath, [...jest, ...folders], { stdio: 'ignore' });
  restore();
  if (status === 0) survived.push(law);
  console.log(`${status === 0 ? 'SURVIVED' : 'noticed '}  ${law}`);
}
console.log(
  `\n${tried - survived.length} of ${tried} noticed (${Math.round((100 * (tried - survived.length)) / tried)} %).`,
);
if (survived.length > 0) process.exitCode = 1;
