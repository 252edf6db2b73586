import type { CharacterPlan, FingerName, LayerLane } from '@warper/core';
import {
  FINGERS,
  defined,
  fingersOf,
  framesPerSecond,
  handPoseOf,
  handPosed,
  poseEdit,
  posedAt,
} from '@warper/core';
import { commit } from '../../../store/edits';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { NumberField } from '../../../ui/NumberField';
import { moveEdit, moveWord } from '../view/moveEdit';
import { withFirstSpan } from './firstKey';

const AXES = ['X', 'Y', 'Z'] as const;

interface Props {
  readonly plan: CharacterPlan;
  readonly layer: LayerLane;
  readonly frame: number;
  readonly joint: number;
}

/** Where a joint is in the scene, and is brought to as its handle brings it; nothing for joints that are only turned. */
export function PlaceFields({ plan, layer, frame, joint }: Props) {
  const dispatch = useAppDispatch();
  const kept = useAppSelector((s) => s.session.kept);
  const { skeleton } = plan;
  const word = moveWord(skeleton, joint);
  if (!word) return null;
  const place = posedAt(plan, frame).world.positions.slice(joint * 3, joint * 3 + 3);
  const bring = (axis: number, to: number): void => {
    const edit = moveEdit(plan, layer, frame, joint, place.with(axis, to), kept);
    if (edit) dispatch(commit(edit));
  };
  return AXES.map((axis, k) => (
    <NumberField
      key={axis}
      label={`${word} ${axis}`}
      unit="m"
      digits={3}
      step={0.01}
      value={defined(place[k])}
      onChange={(to) => bring(k, to)}
    />
  ));
}

/** How the fingers of the hand in hand are held: each one's curl, all at once, and how far they are spread. */
export function FingerFields({ plan, layer, frame, joint }: Props) {
  const dispatch = useAppDispatch();
  const role = plan.skeleton.roles[joint] ?? '';
  const side = /^left(Hand|Thumb|Index|Middle|Ring|Little)/.test(role)
    ? 'left'
    : /^right(Hand|Thumb|Index|Middle|Ring|Little)/.test(role)
      ? 'right'
      : null;
  if (!side || fingersOf(plan.skeleton, side).length === 0) return null;
  const held = handPoseOf(plan, frame, side);
  const hold = (change: Partial<typeof held>): void => {
    const posed = handPosed(plan, side, { ...held, ...change });
    const edit = poseEdit(plan, layer, frame, posed);
    void dispatch(commit(withFirstSpan(layer, frame, framesPerSecond(plan.rate), edit)));
  };
  const fingers = FINGERS.filter((finger) => held.curls[finger] !== undefined);
  const curl = (names: readonly FingerName[], degrees: number): void =>
    hold({ curls: { ...held.curls, ...Object.fromEntries(names.map((name) => [name, degrees])) } });
  const look = { unit: '°', digits: 1, step: 1 } as const;
  const mean = fingers.reduce((sum, finger) => sum + (held.curls[finger] ?? 0), 0) / fingers.length;
  return (
    <>
      <NumberField label="Curl of all fingers" {...look} value={mean} onChange={(v) => curl(fingers, v)} />
      {fingers.map((finger) => (
        <NumberField
          key={finger}
          label={finger === 'thumb' ? 'Curl of the thumb' : `Curl of the ${finger} finger`}
          {...look}
          value={held.curls[finger] ?? 0}
          onChange={(v) => curl([finger], v)}
        />
      ))}
      <NumberField label="Spread" {...look} value={held.spread} onChange={(spread) => hold({ spread })} />
    </>
  );
}
