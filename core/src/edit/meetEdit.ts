import { makePoseBuffer } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { InputError } from '../math/errors';
import type { FloorMove } from '../math/floorMove';
import { composeMoves, invertMove, unpackMove } from '../math/floorMove';
import type { CharacterPlan, Plan } from '../plan/plan';
import type { Scene } from '../scene/scene';
import type { Edit } from './edit';
import { moveOnFloor } from './floorEdits';

/** How somebody stands to another: metres between their roots, and degrees from where the other faces to where they stand. */
export interface MeetingPlace {
  readonly distance: number;
  readonly angle: number;
}

const RADIANS = Math.PI / 180;

const rootAt = (plan: CharacterPlan, frame: number): FloorMove =>
  unpackMove(evaluate(plan, frame, makePoseBuffer(plan.skeleton)).root);

/**
 * The edit that moves a segment on the floor, with all that follows it on its lane, so that at a frame its character stands at a distance from
 * another and faces them.
 *
 * @param angle 0 in front of the other, 90 to their left
 * @throws InputError `meet` where the frame is in a seam of the segment, or outside of it, or somebody would meet themselves
 */
export function meetEdit(
  scene: Scene,
  plan: Plan,
  segment: string,
  other: string,
  frame: number,
  { distance, angle }: MeetingPlace,
): Edit {
  const own = plan.characters.find((c) => c.segments.some((s) => s.id === segment));
  const met = plan.characters.find((c) => c.character.id === other);
  const index = own?.segments.findIndex((s) => s.id === segment) ?? -1;
  const performed = own?.segments[index];
  if (!own || !met || !performed) throw new InputError('meet', 'The scene has nobody of that name.');
  if (own === met)
    throw new InputError('meet', `${own.character.name} cannot meet themselves.`, {
      hint: 'Choose another character.',
    });
  const last = Math.min(performed.end, own.segments[index + 1]?.start ?? Infinity);
  if (frame < performed.start + performed.overlap || frame >= last)
    throw new InputError(
      'meet',
      `${performed.name} is not alone at frame ${frame}: it is from ${performed.start + performed.overlap} to ${last - 1}.`,
      { hint: 'Put the playhead there.' },
    );
  const { x, z, turn } = rootAt(met, frame);
  const way = turn + angle * RADIANS;
  const place: FloorMove = {
    x: x + distance * Math.sin(way),
    z: z + distance * Math.cos(way),
    turn: way + Math.PI,
  };
  const move = composeMoves(place, invertMove(rootAt(own, frame)));
  return moveOnFloor(
    scene,
    plan,
    [segment],
    move,
    `meeting of ${own.character.name} and ${met.character.name}`,
  );
}
