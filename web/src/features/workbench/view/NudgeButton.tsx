import type { CharacterPlan, LayerLane } from '@warper/core';
import { framesPerSecond, poseEdit, posedAt, turnedPose } from '@warper/core';
import { quatConjugate, quatFromAxis, quatMultiply } from '@warper/core/kernels';
import { Move3d } from 'lucide-react';
import type { KeyboardEvent } from 'react';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { useAppDispatch } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { withFirstSpan } from '../card/firstKey';
import type { Thunk } from '../commands/command';
import { keyPose } from './keyPose';
import { moveEdit } from './moveEdit';

/** What each key asks for: to the left, up, forward; about x, y and z where a joint is turned. */
const NUDGES: Readonly<
  Record<string, { readonly move: readonly number[]; readonly turn: readonly number[] }>
> = {
  ArrowLeft: { move: [1, 0, 0], turn: [0, 1, 0] },
  ArrowRight: { move: [-1, 0, 0], turn: [0, -1, 0] },
  ArrowUp: { move: [0, 1, 0], turn: [-1, 0, 0] },
  ArrowDown: { move: [0, -1, 0], turn: [1, 0, 0] },
  PageUp: { move: [0, 0, 1], turn: [0, 0, 1] },
  PageDown: { move: [0, 0, -1], turn: [0, 0, -1] },
};

const METRES = 0.01;
const RADIANS = Math.PI / 180;
/** With Shift it goes so many times as far. */
const FAR = 10;

interface Props {
  readonly layer: string;
  /** What is nudged, in words. */
  readonly what: string;
  readonly joint: number;
  /** Whether it is moved; else it is turned. */
  readonly moves: boolean;
}

/** While it has the focus, arrow keys and the page keys do what the handle of a joint does, a little at a time. */
export function NudgeButton({ layer, what, joint, moves }: Props) {
  const dispatch = useAppDispatch();
  const onKeyDown = (e: KeyboardEvent): void => {
    const way = NUDGES[e.key];
    if (!way) return;
    e.preventDefault();
    e.stopPropagation();
    dispatch(nudge(layer, joint, moves ? way.move : null, way.turn, e.shiftKey ? FAR : 1));
  };
  const by = moves ? '1 cm' : '1°';
  return (
    <Button
      look="soft"
      className="inline-flex items-center gap-1 focus:bg-raised focus:text-ink"
      aria-label={`Nudge the ${what} by arrow keys`}
      aria-keyshortcuts="ArrowLeft ArrowRight ArrowUp ArrowDown PageUp PageDown"
      title={
        moves
          ? `Arrow keys: left, right, up, down by ${by}; Page Up and Page Down: forward and back; with Shift ten times as far`
          : `Arrow keys: about Y and X by ${by}; Page Up and Page Down: about Z; with Shift ten times as far`
      }
      onKeyDown={onKeyDown}
    >
      <Move3d size={14} aria-hidden /> Nudge
    </Button>
  );
}

/** Moves a joint by a step in the directions of its character, or turns it, and keys it as its handle does. */
const nudge =
  (
    id: string,
    joint: number,
    move: readonly number[] | null,
    turn: readonly number[],
    times: number,
  ): Thunk =>
  (dispatch, getState) => {
    const { session } = getState();
    const layer = selectPreviewScene(getState()).lanes[id];
    if (layer?.kind !== 'layer') return;
    const { characters } = selectPreviewPlan(getState()).plan;
    const plan = characters.find((c) => c.character.id === layer.character);
    if (!plan) return;
    const { frame } = session;
    const edit = move
      ? moveEdit(
          plan,
          layer,
          frame,
          joint,
          placeMoved(plan, frame, joint, move, METRES * times),
          session.kept,
        )
      : turnEdit(plan, layer, frame, joint, session.ringAxes, turn, RADIANS * times);
    if (edit) dispatch(keyPose(edit, id, joint, plan));
  };

/** Where a joint is, moved to the left, up and forward as its character faces. */
function placeMoved(
  plan: CharacterPlan,
  frame: number,
  joint: number,
  [left = 0, up = 0, forward = 0]: readonly number[],
  metres: number,
): Float64Array {
  const { world, heading } = posedAt(plan, frame);
  const [s, c] = [Math.sin(heading), Math.cos(heading)];
  const by = [left * c + forward * s, up, forward * c - left * s];
  return world.positions.slice(joint * 3, joint * 3 + 3).map((v, k) => v + (by[k] ?? 0) * metres);
}

function turnEdit(
  plan: CharacterPlan,
  layer: LayerLane,
  frame: number,
  joint: number,
  axes: 'own' | 'world',
  [x = 0, y = 0, z = 0]: readonly number[],
  radians: number,
) {
  const by = quatFromAxis(x, y, z, radians, new Float64Array(4), 0) as Float64Array;
  if (axes === 'own') {
    // The same turn about the joint's own axes, said of the scene.
    const { rotations } = posedAt(plan, frame).world;
    const inverse = quatConjugate(rotations, joint * 4, new Float64Array(4), 0);
    quatMultiply(rotations, joint * 4, by, 0, by, 0);
    quatMultiply(by, 0, inverse, 0, by, 0);
  }
  const edit = poseEdit(plan, layer, frame, [turnedPose(plan, frame, joint, by)]);
  return withFirstSpan(layer, frame, framesPerSecond(plan.rate), edit);
}
