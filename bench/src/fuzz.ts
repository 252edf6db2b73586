import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import {
  glbJson,
  jsonMutations,
  mutate,
  mutateJson,
  mutations,
  readDamaged,
  withGlbJson,
} from '../../formats/src/fuzzing';

/** Damages real files over and over and reads them; prints what fails in a way that it should not. */
const runs = Number(process.argv[2] ?? 20_000);
const files = [
  'demo/made/Set down.bvh',
  'demo/made/visitor-walk.glb',
  'demo/made/keeper.glb',
  'formats/fixtures/khronos-simple-skin.gltf',
  'formats/fixtures/lamp.usda',
  'formats/fixtures/bar.dae',
];

async function hammer<T>(
  what: string,
  changes: fc.Arbitrary<T>,
  apply: (change: T) => Uint8Array,
  file: string,
): Promise<void> {
  let [read, refused] = [0, 0];
  const result = await fc.check(
    fc.asyncProperty(changes, async (change) => {
      if (await readDamaged(apply(change), file)) read++;
      else refused++;
    }),
    { numRuns: runs },
  );
  console.log(`${file}, ${what}: ${read} read, ${refused} refused`);
  if (!result.failed) return;
  console.log(`  failed: ${JSON.stringify(result.counterexample)}\n  ${String(result.errorInstance)}`);
  process.exitCode = 1;
}

for (const file of files) {
  const bytes = new Uint8Array(readFileSync(file));
  await hammer('bytes', mutations(), (change) => mutate(bytes, change), file);
  if (!/\.(glb|gltf)$/.test(file)) continue;
  const glb = file.endsWith('.glb');
  const document = glb ? glbJson(bytes) : (JSON.parse(new TextDecoder().decode(bytes)) as unknown);
  const pack = (json: unknown): Uint8Array =>
    glb ? withGlbJson(bytes, json) : new TextEncoder().encode(JSON.stringify(json));
  await hammer('values', jsonMutations(), (change) => pack(mutateJson(document, change)), file);
}
