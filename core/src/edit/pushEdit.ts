import { makePoseBuffer } from '../clip/pose';
import { evaluateUnlocked } from '../evaluate/evaluateUnlocked';
import { InputError } from '../math/errors';
import type { FloorMove } from '../math/floorMove';
import { composeMoves, invertMove, unpackMove } from '../math/floorMove';
import { framesPerSecond } from '../math/rate';
import type { CharacterPlan, Plan } from '../plan/plan';
import type { PoseKey, ValueKey } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import { PLAIN_LAYER } from '../scene/lane';
import { PLAIN_MARKER } from '../scene/marker';
import type { Edit } from './edit';

/** How somebody is pushed. */
export interface Push {
  /** Who is pushed. */
  readonly character: string;
  /** Who or what pushes; null nobody who is there. */
  readonly by: string | null;
  /** The frame at which they are hit, and how many it takes until they stand again. */
  readonly frame: number;
  readonly frames: number;
  /** Metres. */
  readonly distance: number;
  /** Direction on the floor, degrees; null away from what pushes, or backwards. */
  readonly heading: number | null;
  /** Ids of what is made: the marker, the layer of who is pushed, and that of a door. */
  readonly ids: { readonly marker: string; readonly layer: string; readonly door: string };
}

const RADIANS = Math.PI / 180;

/**
 * The edit that has somebody pushed: an impact marker, a layer whose root keys take them a distance away, fast at first and evenly
 * slower, while their feet step after it; and where a door pushes, a layer that swings its leaf against them and follows.
 *
 * @throws InputError `push` where one of them is not there
 */
export function pushEdit(plan: Plan, push: Push): Edit {
  const pushed = find(plan, push.character);
  const by = push.by === null ? null : find(plan, push.by);
  const root = rootAt(pushed, push.frame);
  const way = wayOf(push, root, by);
  const name = by ? `Pushed by ${by.character.name}` : 'Pushed';
  const door = by ? doorLayer(by, push, root, way, framesPerSecond(plan.rate)) : null;
  return {
    type: 'several',
    label: `push of ${pushed.character.name}`,
    edits: [
      {
        type: 'marker',
        marker: {
          ...PLAIN_MARKER,
          id: push.ids.marker,
          name: by ? `${by.character.name} hits ${pushed.character.name}` : `${pushed.character.name} is hit`,
          frame: push.frame,
          impact: by ? [by.character.id, pushed.character.id] : [pushed.character.id],
        },
      },
      { type: 'add layer', layer: pushedLayer(push, name, way - root.turn) },
      ...(door ? [{ type: 'add layer', layer: door } as const] : []),
    ],
  };
}

function find(plan: Plan, id: string): CharacterPlan {
  const character = plan.characters.find((c) => c.character.id === id);
  if (character) return character;
  throw new InputError('push', 'The scene has nobody of that name.', { hint: 'Choose another character.' });
}

const rootAt = (plan: CharacterPlan, frame: number): FloorMove =>
  unpackMove(evaluateUnlocked(plan, frame, makePoseBuffer(plan.skeleton)).root);

/** Metres below which two stand on one spot. */
const ONE_SPOT = 0.01;

function wayOf({ heading, frame }: Push, root: FloorMove, by: CharacterPlan | null): number {
  if (heading !== null) return heading * RADIANS;
  const other = by && rootAt(by, frame);
  const [x, z] = other ? [root.x - other.x, root.z - other.z] : [0, 0];
  return Math.hypot(x, z) > ONE_SPOT ? Math.atan2(x, z) : root.turn + Math.PI;
}

/** Keys that go so far in so many frames, slowing down evenly. */
function slowingKeys({ frame, frames }: Push, distance: number): ValueKey[] {
  const key = { curve: 'free', into: null } as const;
  return [
    { ...key, frame, value: 0, tangent: (2 * distance) / frames },
    { ...key, frame: frame + frames, value: distance, tangent: 0 },
  ];
}

const pushedLayer = (push: Push, name: string, way: number): LayerLane => ({
  ...PLAIN_LAYER,
  id: push.ids.layer,
  name,
  character: push.character,
  blend: 'additive',
  rootKeys: {
    left: slowingKeys(push, push.distance * Math.sin(way)),
    forward: slowingKeys(push, push.distance * Math.cos(way)),
  },
  carriesOn: true,
  rootFeet: 'step',
});

/** Seconds in which a door swings until it hits. */
const SWING_SECONDS = 0.4;
/** Metres from somebody's middle at which a leaf touches them, and beyond its edge how far away it still does. */
const TOUCH = 0.2;
const BEYOND = 0.35;
/** How far a leaf swings that meets nobody, radians: until the frame, and after it. */
const OPEN = [1, 1.3] as const;

function doorLayer(
  by: CharacterPlan,
  push: Push,
  root: FloorMove,
  way: number,
  perSecond: number,
): LayerLane | null {
  const leaf = by.skeleton.names.indexOf('leaf');
  if (by.character.prop?.shape !== 'door' || leaf < 0) return null;
  const place = rootAt(by, push.frame);
  const [hinge, width] = [by.skeleton.restTranslations[leaf * 3] ?? 0, by.character.prop.size[0]];
  const angleAt = (x: number, z: number): number | null => {
    const seen = composeMoves(invertMove(place), { x, z, turn: 0 });
    return leafAngle(seen.x - hinge, seen.z, width);
  };
  const { distance, frame, frames } = push;
  const hit = angleAt(root.x, root.z) ?? OPEN[0];
  const end = angleAt(root.x + distance * Math.sin(way), root.z + distance * Math.cos(way));
  const swing = Math.max(1, Math.round(SWING_SECONDS * perSecond));
  const key = (at: number, angle: number, curve: PoseKey['curve']): PoseKey => ({
    frame: at,
    rotation: [0, Math.sin(angle / 2), 0, Math.cos(angle / 2)],
    curve,
    tangent: null,
    into: null,
  });
  return {
    ...PLAIN_LAYER,
    id: push.ids.door,
    name: 'Swing',
    character: by.character.id,
    keys: {
      leaf: [
        key(frame - swing, 0, 'flat'),
        key(frame, hit, 'smooth'),
        key(frame + frames, end ?? Math.sign(hit) * Math.max(Math.abs(hit), OPEN[1]), 'flat'),
      ],
    },
  };
}

/**
 * How far a leaf is open that touches somebody, radians; null where they stand out of its way.
 *
 * @param x from the hinge, along the frame; the closed leaf lies towards -x
 * @param z in front of the frame
 */
function leafAngle(x: number, z: number, width: number): number | null {
  const far = Math.hypot(x, z);
  if (far > width + BEYOND || far < TOUCH) return null;
  const to = Math.atan2(Math.abs(z), -x) - Math.asin(TOUCH / far);
  return to > 0 ? Math.sign(z || 1) * to : null;
}
