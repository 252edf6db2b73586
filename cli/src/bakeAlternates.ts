import { InputError, alternatesOf, versionOf } from '@warper/core';
import { fileName } from '@warper/formats';
import type { BakeArguments } from './bakeCommand';
import { bakeToFiles } from './bakeCommand';
import type { Opened } from './open';
import { reopened } from './open';

/** What was written of one alternate. */
interface BakedAlternate {
  readonly alternate: string;
  readonly comment: string;
  readonly written: object;
}

/**
 * Bakes every alternate of a scene into a folder, one after the other.
 *
 * @param guard refuses a file that must not be written
 * @throws InputError `no-alternate` where the scene has none
 */
export async function bakeAlternates(
  opened: Opened,
  args: BakeArguments,
  progress: (share: number) => void,
  guard: (file: string) => Promise<void>,
): Promise<{ readonly alternates: readonly BakedAlternate[] }> {
  const all = alternatesOf(opened.scene);
  if (all.length === 0)
    throw new InputError('no-alternate', 'The scene has no alternates.', {
      hint: 'Leave --alternates out, or make one on the workbench.',
    });
  const alternates: BakedAlternate[] = [];
  const names = new Set<string>();
  for (const { name, comment, ...alternate } of all) {
    const share = (s: number): void => progress((alternates.length + s) / all.length);
    // Two of them may have one name, as far as files go.
    let file = `${opened.scene.name} ${name}`.slice(0, 190);
    for (let i = 2; names.has(fileName(file).toLowerCase()); i++) file = `${opened.scene.name} ${name} ${i}`;
    names.add(fileName(file).toLowerCase());
    const version = reopened(opened, { ...versionOf(opened.scene, alternate), name: file });
    alternates.push({ alternate: name, comment, written: await bakeToFiles(version, args, share, guard) });
  }
  return { alternates };
}
