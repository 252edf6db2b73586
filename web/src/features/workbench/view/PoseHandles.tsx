import { TransformControls } from '@react-three/drei';
import { useFrame } from '@react-three/fiber';
import type { CharacterPlan, Edit, LayerLane } from '@warper/core';
import {
  defined,
  evaluate,
  framesPerSecond,
  makePoseBuffer,
  makeWorldPose,
  poseEdit,
  poseToWorld,
  turnedPose,
} from '@warper/core';
import { useMemo, useRef } from 'react';
import { useStore } from 'react-redux';
import type { Color, Mesh, Quaternion } from 'three';
import { Object3D } from 'three';
import { themeColour } from '../../../parts/stage/colours';
import { preview } from '../../../store/edits';
import { selectPreviewScene } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { withFirstSpan } from '../card/firstKey';
import { JointMarks } from './JointMarks';
import { joined, keyPose } from './keyPose';
import { moveEdit, moveWord } from './moveEdit';

/** While a layer is in hand: the joints of its character to be pressed, and a handle at the one that is posed. */
export function PoseHandles({ plan }: { readonly plan: CharacterPlan }) {
  const dispatch = useAppDispatch();
  const selection = useAppSelector((s) => s.session.selection);
  const lane = useAppSelector((s) =>
    selection.kind === 'layer' ? selectPreviewScene(s).lanes[selection.id] : undefined,
  );
  const posed = useAppSelector((s) => s.session.posed);
  const playing = useAppSelector((s) => s.session.playing);
  if (lane?.kind !== 'layer' || lane.character !== plan.character.id || lane.locked || playing) return null;
  const joint = posed === null ? -1 : plan.skeleton.names.indexOf(posed);
  return (
    <>
      <JointMarks plan={plan} joint={posed} onPick={(name) => dispatch(sessionActions.posed(name))} />
      {joint >= 0 && <JointHandle plan={plan} layer={lane} joint={joint} />}
    </>
  );
}

/** The colours of a handle's axes by those that it is made with. */
const AXIS_COLOURS: Readonly<Record<number, string>> = {
  0xff0000: '--hue-1',
  0x00ff00: '--hue-6',
  0x0000ff: '--hue-3',
  0xffff00: '--signal',
  0x00ffff: '--signal',
  0xff00ff: '--signal',
};

/** Gives a handle the colours of the theme, before it is drawn. */
export function inOwnColours(controls: Object3D | null): void {
  controls?.traverse((part) => {
    const { color } = ((part as Mesh).material ?? {}) as { color?: Color };
    const own = color && AXIS_COLOURS[color.getHex()];
    if (own) color.set(themeColour(own));
  });
}

interface HandleProps {
  readonly plan: CharacterPlan;
  /** The layer as it is shown, with a pose that is not keyed yet. */
  readonly layer: LayerLane;
  readonly joint: number;
}

/** What a drag began from. */
interface Begun {
  readonly plan: CharacterPlan;
  readonly layer: LayerLane;
  readonly frame: number;
  readonly rotation: Quaternion;
  edit: Edit | null;
}

/** Rings that turn a joint, or arrows that bring it to a place. */
function JointHandle({ plan, layer, joint }: HandleProps) {
  const store = useStore<RootState>();
  const dispatch = useAppDispatch();
  const moves =
    useAppSelector((s) => s.session.posing === 'reach') && moveWord(plan.skeleton, joint) !== null;
  const isWorld = useAppSelector((s) => s.session.ringAxes === 'world');
  const begun = useRef<Begun | null>(null);
  const target = useMemo(() => new Object3D(), []);
  const work = useMemo(
    () => ({ buffer: makePoseBuffer(plan.skeleton), world: makeWorldPose(plan.skeleton) }),
    [plan.skeleton],
  );
  useFrame(() => {
    if (begun.current) return;
    const pose = evaluate(plan, store.getState().session.frame, work.buffer);
    const { positions, rotations } = poseToWorld(plan.skeleton, pose, work.world);
    target.position.fromArray(positions, joint * 3);
    target.quaternion.fromArray(rotations, joint * 4);
  });
  const begin = (): void => {
    const { frame } = store.getState().session;
    begun.current = { plan, layer, frame, rotation: target.quaternion.clone(), edit: null };
  };
  const move = (): void => {
    const from = begun.current;
    if (!from) return;
    from.edit = moves ? moved(from) : turned(from);
    dispatch(preview(joined(store.getState().session.unkeyed, from.edit)));
  };
  const place = (): Float64Array => Float64Array.from(target.position.toArray());
  const moved = ({ plan, layer, frame }: Begun): Edit | null =>
    moveEdit(plan, layer, frame, joint, place(), store.getState().session.kept);
  const turned = ({ plan, layer, frame, rotation }: Begun): Edit => {
    const posed = [turnedPose(plan, frame, joint, turnSince(rotation, target.quaternion))];
    const edit = poseEdit(plan, layer, frame, posed);
    return withFirstSpan(layer, frame, framesPerSecond(plan.rate), edit);
  };
  const end = (): void => {
    const edit = begun.current?.edit;
    begun.current = null;
    if (edit) dispatch(keyPose(edit, layer.id, joint, plan));
  };
  return (
    <>
      <primitive object={target} />
      <TransformControls
        object={target}
        mode={moves ? 'translate' : 'rotate'}
        space={moves || isWorld ? 'world' : 'local'}
        size={0.6}
        ref={inOwnColours}
        onMouseDown={begin}
        onObjectChange={move}
        onMouseUp={end}
      />
    </>
  );
}

/** The rotation in the scene (xyzw) from one direction to another. */
function turnSince(from: Quaternion, to: Quaternion): Float64Array {
  const turn = to.clone().multiply(from.clone().invert());
  return Float64Array.from(defined(turn.toArray()));
}
