import { extname } from 'node:path';
import type { Clip } from '@warper/core';
import { InputError, bakeSteps } from '@warper/core';
import { writeMotion } from '@warper/formats';
import type { Opened } from './open';
import { writeWhole } from './paths';

/** Options of `bake`. */
export interface BakeArguments {
  readonly character: string;
  readonly output: string;
  readonly from?: number;
  readonly to?: number;
  readonly rate?: number;
  readonly travel?: 'recorded' | 'in-place';
  readonly scale?: number;
}

/** Bakes a character's performance to a file; says what was written. */
export async function bakeToFile(
  opened: Opened,
  args: BakeArguments,
  progress: (share: number) => void,
): Promise<object> {
  const plan = opened.plan.characters.find((c) => c.character.name === args.character);
  if (!plan) {
    throw new InputError('no-character', `The scene has no character "${args.character}".`, {
      hint: `It has ${opened.plan.characters.map((c) => `"${c.character.name}"`).join(', ')}.`,
    });
  }
  const isBvh = extname(args.output).toLowerCase() === '.bvh';
  if (args.scale !== undefined && !isBvh) {
    throw new InputError('scale', 'GLB is always in metres.', { hint: 'Leave --scale out, or bake to BVH.' });
  }
  const steps = bakeSteps(plan, opened.plan.rate, {
    from: args.from,
    to: args.to,
    rate: args.rate,
    travel: args.travel === 'in-place' ? 'in place' : 'recorded',
  });
  let step = steps.next();
  for (; !step.done; step = steps.next()) progress(step.value);
  const clip: Clip = step.value;
  const { body, source } = opened.library.bodyEntry(plan.character.body)!;
  const format = isBvh ? 'bvh' : 'glb';
  await writeWhole(
    args.output,
    await writeMotion(clip, { format, body, bytes: source.bytes, unitsPerMetre: args.scale }),
  );
  return {
    file: args.output,
    character: args.character,
    frames: clip.frames,
    rate: clip.rate,
    joints: clip.skeleton.names.length,
  };
}
