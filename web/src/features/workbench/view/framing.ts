import type { CharacterPlan, Plan, Scene } from '@warper/core';
import { defined, evaluate, makePoseBuffer, posedAt, restHeight } from '@warper/core';
import { floorTrace } from '../../../parts/stage/paths';
import type { JointOf, Measured, Selection, ViewAngle } from '../../../store/sessionState';
import { spanOf } from '../spanOf';

/** What is to be seen: a point and the metres around it. */
export interface Framed {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly radius: number;
}

/** Angle of the view from top to bottom, degrees. */
export const FIELD = 32;
/** Height of the point that is looked at in a body 1.75 m high, metres: about its chest. */
export const LOOK_HEIGHT = 0.85;
/** Metres around a root that a body 1.75 m high takes up. */
const REACH = 0.55;
const HUMAN = 1.75;
/** Places of a span that are looked at. */
const PLACES = 24;
/** How much more than what is to be seen the view shows. */
const MARGIN = 1.25;

/** Directions from what is looked at to the camera, for a character at heading 0. */
const DIRECTIONS: Readonly<Record<ViewAngle, readonly [number, number, number]>> = {
  free: [0.62, 0.34, 0.78],
  front: [0, 0.12, 1],
  side: [1, 0.12, 0],
  top: [0, 1, 0.001],
  both: [0, 0.12, 1],
  camera: [0.62, 0.34, 0.78],
};

/** The unit direction from what is looked at to the camera, from an angle on somebody who faces `heading`, radians. */
export function directionOf(angle: ViewAngle, heading: number): [number, number, number] {
  const [x, y, z] = DIRECTIONS[angle];
  const length = Math.hypot(x, y, z);
  const turn = angle === 'front' || angle === 'side' || angle === 'both' ? heading : 0;
  const [sine, cosine] = [Math.sin(turn), Math.cos(turn)];
  return [(x * cosine + z * sine) / length, y / length, (z * cosine - x * sine) / length];
}

/** How far away the camera stands to show so many metres around a point, in a view so many times as wide as high. */
export const distanceFor = (radius: number, aspect: number): number =>
  (MARGIN * radius) / Math.sin(((FIELD / 2) * Math.PI) / 180) / Math.min(1, aspect);

/** What a selection looks like from the camera's point: a character at the playhead, a segment or seam along its way. */
export function frameOf(
  plan: Plan,
  selection: Selection,
  frame: number,
  tethers: Scene['tethers'] = {},
): Framed | null {
  const thing = thingInHand(plan, selection);
  if (thing) return aroundThings([thing], frame);
  const tether = selection.kind === 'tether' ? tethers[selection.id] : undefined;
  const both = plan.characters.filter(
    ({ character: { id } }) => id === tether?.child || id === tether?.parent,
  );
  if (both.length > 0) return aroundThings(both, frame);
  const span = spanOf(plan, selection);
  if (!span) return null;
  const { character } = span;
  const still = selection.kind === 'character' || selection.kind === 'layer';
  const at = Math.min(Math.max(frame, span.from), span.to - 1);
  return around(character, still ? at : span.from, still ? at : span.to - 1);
}

/** The prop in hand, or whatever the tether in hand holds. */
function thingInHand({ characters }: Plan, selection: Selection): CharacterPlan | undefined {
  if (selection.kind === 'character')
    return characters.find((c) => c.character.id === selection.id && c.character.prop);
  if (selection.kind !== 'tether') return undefined;
  return characters.find(({ staging }) =>
    [...(staging?.holds ?? []), ...(staging?.reaches ?? [])].some((t) => t.id === selection.id),
  );
}

/** Metres around a thing that are seen with it, at least. */
const AROUND_THING = 0.7;

/** Things as they are at a frame, by their joints. */
function aroundThings(things: readonly CharacterPlan[], frame: number): Framed {
  const positions = things.flatMap((thing) => [...posedAt(thing, frame).world.positions]);
  const middle = [0, 1, 2].map((k) => {
    const all = positions.filter((_, i) => i % 3 === k);
    return (Math.min(...all) + Math.max(...all)) / 2;
  });
  let radius = AROUND_THING;
  for (let i = 0; i < positions.length; i += 3)
    radius = Math.max(
      radius,
      Math.hypot(...middle.map((v, k) => v - defined(positions[i + k]))) + AROUND_THING / 2,
    );
  const [x = 0, y = 0, z = 0] = middle;
  return { x, y, z, radius };
}

/** Where a joint is at a frame, metres; null where the character or the joint is gone. */
export function jointPlace(
  plan: Plan,
  { character, joint }: JointOf,
  frame: number,
): [number, number, number] | null {
  const actor = plan.characters.find((c) => c.character.id === character);
  const index = actor?.skeleton.names.indexOf(joint) ?? -1;
  if (!actor || index < 0) return null;
  const [x = 0, y = 0, z = 0] = posedAt(actor, frame).world.positions.subarray(index * 3, index * 3 + 3);
  return [x, y, z];
}

/** Metres around joints that are seen with them. */
const AROUND_JOINTS = 0.25;

/** Two joints at a frame; null where one of them is gone. */
export function frameOfJoints(plan: Plan, measured: Measured, frame: number): Framed | null {
  const [a, b] = measured.map((j) => jointPlace(plan, j, frame));
  if (!a || !b) return null;
  const [x = 0, y = 0, z = 0] = a.map((v, k) => (v + defined(b[k])) / 2);
  return { x, y, z, radius: Math.hypot(...a.map((v, k) => v - defined(b[k]))) / 2 + AROUND_JOINTS };
}

/** A character in some of its frames, both included. */
function around(character: CharacterPlan, from: number, to: number): Framed {
  const size = (restHeight(character.skeleton) * character.character.size) / HUMAN;
  const buffer = makePoseBuffer(character.skeleton);
  const count = Math.max(1, Math.min(PLACES, Math.floor(to - from) + 1));
  const box = emptyBox();
  for (let i = 0; i < count; i++) {
    const { root } = evaluate(
      character,
      Math.round(from + ((to - from) * i) / Math.max(1, count - 1)),
      buffer,
    );
    extend(box, defined(root[0]), defined(root[1]));
  }
  const radius = Math.hypot(box.x1 - box.x0, box.z1 - box.z0) / 2 + REACH * size;
  return {
    x: (box.x0 + box.x1) / 2,
    y: LOOK_HEIGHT * size,
    z: (box.z0 + box.z1) / 2,
    radius: Math.max(radius, (HUMAN * size) / 2),
  };
}

const emptyBox = () => ({ x0: Infinity, x1: -Infinity, z0: Infinity, z1: -Infinity });

function extend(box: ReturnType<typeof emptyBox>, x: number, z: number): void {
  box.x0 = Math.min(box.x0, x);
  box.x1 = Math.max(box.x1, x);
  box.z0 = Math.min(box.z0, z);
  box.z1 = Math.max(box.z1, z);
}

/** Middle of everything that happens, and how far it goes across and into the depth, metres. */
export function extentOf(plan: Plan): { x: number; z: number; across: number; deep: number } {
  const box = emptyBox();
  for (const character of plan.characters) {
    const { roots } = floorTrace(character, plan.rate);
    for (let i = 0; i < roots.length; i += 2) extend(box, defined(roots[i]), defined(roots[i + 1]));
  }
  if (box.x0 > box.x1) return { x: 0, z: 0, across: 2, deep: 2 };
  return {
    x: (box.x0 + box.x1) / 2,
    z: (box.z0 + box.z1) / 2,
    across: box.x1 - box.x0,
    deep: box.z1 - box.z0,
  };
}

/** Which way the character of a selection faces at a frame, radians; 0 where it is nobody's. */
export function headingOf(plan: Plan, selection: Selection, frame: number): number {
  const span = spanOf(plan, selection);
  if (!span) return 0;
  const { character } = span;
  const at = Math.min(Math.max(frame, span.from), span.to - 1);
  return defined(evaluate(character, at, makePoseBuffer(character.skeleton)).root[2]);
}

/** Shares of half the view's width, and of its distance, that a character can go away from what is looked at. */
const FREE = { across: 0.6, deep: 0.35 };

/**
 * How far a view must move to keep somebody in it: metres to its right and into its depth. Nothing while they are well inside.
 *
 * @param right metres by which they are to the right of what is looked at
 * @param deep metres by which they are behind it
 * @param halfWidth metres from the middle of the view to its edge, at what is looked at
 */
export const shiftToKeep = (
  right: number,
  deep: number,
  halfWidth: number,
  distance: number,
): readonly [number, number] => [beyond(right, FREE.across * halfWidth), beyond(deep, FREE.deep * distance)];

const beyond = (value: number, limit: number): number =>
  Math.abs(value) <= limit ? 0 : value - Math.sign(value) * limit;
