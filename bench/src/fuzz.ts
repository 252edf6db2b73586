import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { mutate, mutations, readDamaged } from '../../formats/src/fuzzing';

/** Damages real files over and over and reads them; prints what fails in a way that it should not. */
const runs = Number(process.argv[2] ?? 20_000);
const files = [
  'demo/made/Set down.bvh',
  'demo/made/visitor-walk.glb',
  'demo/made/keeper.glb',
  'formats/fixtures/khronos-simple-skin.gltf',
];
for (const file of files) {
  const bytes = new Uint8Array(readFileSync(file));
  let [read, refused] = [0, 0];
  const result = await fc.check(
    fc.asyncProperty(mutations(), async (changes) => {
      if (await readDamaged(mutate(bytes, changes), file)) read++;
      else refused++;
    }),
    { numRuns: runs },
  );
  console.log(`${file}: ${read} read, ${refused} refused`);
  if (result.failed) {
    console.log(`  failed: ${JSON.stringify(result.counterexample)}\n  ${String(result.errorInstance)}`);
    process.exitCode = 1;
  }
}
