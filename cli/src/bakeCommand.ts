import { extname } from 'node:path';
import type { Clip, MotionPieces } from '@warper/core';
import { InputError, bakePieces, defined } from '@warper/core';
import type { WriteOptions } from '@warper/formats';
import { motionParts } from '@warper/formats';
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
  const motion = bakePieces(plan, opened.plan.rate, {
    from: args.from,
    to: args.to,
    rate: args.rate,
    travel: args.travel === 'in-place' ? 'in place' : 'recorded',
  });
  const { body, source } = defined(opened.library.bodyEntry(plan.character.body));
  const options: WriteOptions = {
    format: isBvh ? 'bvh' : 'glb',
    body,
    bytes: source.bytes,
    unitsPerMetre: args.scale,
  };
  await writeWhole(args.output, motionParts(withProgress(motion, progress), options));
  return {
    file: args.output,
    character: args.character,
    frames: motion.frames,
    rate: motion.rate,
    joints: motion.skeleton.names.length,
  };
}

/** A motion that reports how much of it has been computed. */
function withProgress(motion: MotionPieces, progress: (share: number) => void): MotionPieces {
  async function* pieces(): AsyncGenerator<Clip> {
    let done = 0;
    for await (const piece of motion.pieces()) {
      yield piece;
      done += piece.frames;
      progress(done / motion.frames);
    }
  }
  return { ...motion, pieces };
}
