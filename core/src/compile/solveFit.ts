import type { FloorMove } from '../math/floorMove';
import { STILL, composeMoves, invertMove, shortestTurn } from '../math/floorMove';
import type { FloorPlace } from '../scene/floor';
import type { FitMode, Seam } from '../scene/seam';
import { fitPlaces, nudgeFit } from '../seam/fit';
import type { Role } from '../skeleton/roles';
import { jointOfRole } from '../skeleton/skeleton';
import { joinOf } from '../scene/seam';
import { FitReader } from './fitReader';
import { stepMove, stepPath } from './makeStep';
import type { SegmentPlan, SolvedFit } from '../plan/plan';
import { sharedStep } from './sharedStep';

/** Where body and hips disagree by more than this about the direction, limbs in swing have turned the fit. */
const UNLIKE_RADIANS = Math.PI / 6;

/** Roles of the joints that modes are named for. */
const LIMBS: Readonly<Record<string, Role>> = {
  'left foot': 'leftFoot',
  'right foot': 'rightFoot',
  'left hand': 'leftHand',
  'right hand': 'rightHand',
};

/**
 * Solves the floor move that places `incoming` (whose own move must be the identity) on `outgoing`, nudge
 * included. The match instant is the middle of the overlap, else the start. What cannot be solved as asked falls back
 * and says so.
 */
export function solveFit(outgoing: SegmentPlan, incoming: SegmentPlan, seam: Seam): SolvedFit {
  const reader = new FitReader(outgoing, incoming);
  const solved =
    joinOf(seam, incoming.overlap).kind === 'step'
      ? byStep(reader, seam)
      : solveMode(reader, seam.fit, !seam.facing);
  const lift = seam.height ? reader.heightDifference() : 0;
  const { x, z, turn } = seam.nudge;
  if (x === 0 && z === 0 && turn === 0) return { ...solved, lift };
  const nudge = { x, z, turn: (turn * Math.PI) / 180 };
  return { ...solved, move: nudgeFit(solved.move, reader.root(incoming), nudge), lift };
}

type Solved = Omit<SolvedFit, 'lift'>;

function solveMode(reader: FitReader, fit: FitMode, keepDirection: boolean): Solved {
  if (fit === 'free') return { move: STILL, remark: null };
  if (typeof fit === 'object' && 'pin' in fit) return byPin(reader, fit.pin);
  if (fit === 'hips') return byHips(reader, keepDirection, null);
  if (fit === 'whole body') return byWholeBody(reader, keepDirection);
  if (fit === 'planted foot') return byPlantedFoot(reader, keepDirection);
  const name = typeof fit === 'object' ? fit.joint : fit;
  const { skeleton } = reader;
  const joint =
    typeof fit === 'object' ? skeleton.names.indexOf(fit.joint) : jointOfRole(skeleton, LIMBS[fit]!);
  if (joint < 0) return byHips(reader, keepDirection, `The body has no ${name}: fitted by the hips.`);
  const { turn } = byHips(reader, keepDirection, null).move;
  return {
    move: onto(reader.joint(reader.outgoing, joint), reader.joint(reader.incoming, joint), turn),
    remark: null,
  };
}

/** Where the root comes to at the end of a made step, unless the incoming clip stands somewhere by itself. */
function byStep(reader: FitReader, { fit, facing }: Seam): Solved {
  if (fit === 'free' || (typeof fit === 'object' && 'pin' in fit)) return solveMode(reader, fit, !facing);
  const { outgoing, incoming } = reader;
  const path = stepPath(outgoing, incoming);
  const root = reader.root(incoming, incoming.start + incoming.overlap);
  const move = stepMove(path, root);
  if (facing) return { move, remark: null };
  const { x, z } = composeMoves(move, root);
  return { move: onto([x, z], [root.x, root.z], 0), remark: null };
}

/** The move that puts the incoming root's first frame on a place of the scene. */
function byPin(reader: FitReader, { x, z, heading }: FloorPlace): Solved {
  const root = reader.root(reader.incoming, reader.incoming.start);
  const wanted = { x, z, turn: (heading * Math.PI) / 180 };
  return { move: composeMoves(wanted, invertMove(root)), remark: null };
}

/** The move with a given turn that brings point b onto point a. */
function onto(a: readonly [number, number], b: readonly [number, number], turn: number): FloorMove {
  const s = Math.sin(turn);
  const c = Math.cos(turn);
  return { x: a[0] - (b[0] * c + b[1] * s), z: a[1] - (-b[0] * s + b[1] * c), turn };
}

function byHips(reader: FitReader, keepDirection: boolean, remark: string | null): Solved {
  return {
    move: fitPlaces(reader.root(reader.outgoing), reader.root(reader.incoming), keepDirection),
    remark,
  };
}

function byWholeBody(reader: FitReader, keepDirection: boolean): Solved {
  const hips = byHips(
    reader,
    keepDirection,
    'The poses have no direction of their own on the floor: fitted by the hips.',
  );
  const move = reader.wholeBody(keepDirection);
  if (!move) return hips;
  const apart = Math.abs(shortestTurn(move.turn - hips.move.turn));
  const degrees = Math.round((apart * 180) / Math.PI);
  const remark =
    apart > UNLIKE_RADIANS
      ? `The poses are unlike: the whole body fits best ${degrees}° away from the direction of the hips. Choose other frames, or fit by the hips.`
      : null;
  return { move, remark };
}

/** Position from the foot that is planted on both sides, direction from the whole body. */
function byPlantedFoot(reader: FitReader, keepDirection: boolean): Solved {
  const body = byWholeBody(reader, keepDirection);
  const step = sharedStep(reader);
  if (!step) return body;
  return { move: onto(step.outgoing, step.incoming, body.move.turn), remark: body.remark };
}
