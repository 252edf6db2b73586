import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { evaluateUnlocked } from '../evaluate/evaluateUnlocked';
import type { FloorMove } from '../math/floorMove';
import { STILL, composeMoves, invertMove, shortestTurn, unpackMove } from '../math/floorMove';
import type { CharacterPlan } from '../plan/plan';
import type { Meeting } from '../scene/meeting';
import { jointOrRoot } from '../skeleton/jointNamed';

const RADIANS = Math.PI / 180;

/** Where somebody stands at a frame, and where a joint of theirs is over the floor. */
interface Standing {
  readonly root: FloorMove;
  readonly x: number;
  readonly z: number;
}

function standingAt(plan: CharacterPlan, frame: number, joint: string | null): Standing {
  const pose = evaluateUnlocked(plan, frame, makePoseBuffer(plan.skeleton));
  const root = unpackMove(pose.root);
  if (joint === null) return { root, x: root.x, z: root.z };
  const { positions } = poseToWorld(plan.skeleton, pose, makeWorldPose(plan.skeleton));
  const o = jointOrRoot(plan.skeleton, joint) * 3;
  return { root, x: positions[o]!, z: positions[o + 2]! };
}

/** The floor move that brings somebody to where they are to stand to another at a frame. */
export function meetingMove(
  plan: CharacterPlan,
  other: CharacterPlan,
  frame: number,
  { distance, angle, turn, joints }: Meeting,
): FloorMove {
  const own = standingAt(plan, frame, joints?.own ?? null);
  const met = standingAt(other, frame, joints?.other ?? null);
  const way = met.root.turn + angle * RADIANS;
  const point = composeMoves(invertMove(own.root), { x: own.x, z: own.z, turn: 0 });
  const facing = { x: 0, z: 0, turn: way + Math.PI + turn * RADIANS };
  const offset = composeMoves(facing, { x: point.x, z: point.z, turn: 0 });
  const place = {
    x: met.x + distance * Math.sin(way) - offset.x,
    z: met.z + distance * Math.cos(way) - offset.z,
    turn: facing.turn,
  };
  const move = composeMoves(place, invertMove(own.root));
  return { ...move, turn: shortestTurn(move.turn) };
}

function moved({ root, x, z }: Standing, move: FloorMove): Standing {
  const point = composeMoves(move, { x, z, turn: 0 });
  return { root: composeMoves(move, root), x: point.x, z: point.z };
}

/**
 * How somebody stands to another at a frame, as a meeting that would keep them there.
 *
 * @param move what they are moved by first
 */
export function meetingNow(
  plan: CharacterPlan,
  other: CharacterPlan,
  frame: number,
  joints: Meeting['joints'],
  move: FloorMove = STILL,
): Pick<Meeting, 'distance' | 'angle' | 'turn'> {
  const own = moved(standingAt(plan, frame, joints?.own ?? null), move);
  const met = standingAt(other, frame, joints?.other ?? null);
  const [x, z] = [own.x - met.x, own.z - met.z];
  const distance = Math.hypot(x, z);
  // Two on one spot: the way from the one to the other is where the other faces.
  const way = distance > 1e-9 ? Math.atan2(x, z) : met.root.turn;
  return {
    distance,
    angle: shortDegrees(way - met.root.turn),
    turn: shortDegrees(own.root.turn - way - Math.PI),
  };
}

const shortDegrees = (radians: number): number => {
  const degrees = radians / RADIANS;
  return degrees - 360 * Math.round(degrees / 360);
};
