import type { CharacterPlan, Edit, LayerLane, PosedJoint } from '@warper/core';
import { breakdownEdit, copyPose, framesPerSecond, pastedPose, poseBelow, poseEdit } from '@warper/core';
import { useState } from 'react';
import { commit } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { withFirstSpan } from './firstKey';

interface Props {
  readonly plan: CharacterPlan;
  readonly layer: LayerLane;
  readonly frame: number;
  /** The joint in hand; -1 for none. */
  readonly joint: number;
}

/** What is done with whole poses: copied and pasted, taken back to what is below, set between two keys. */
export function PoseTools({ plan, layer, frame, joint }: Props) {
  const dispatch = useAppDispatch();
  const copied = useAppSelector((s) => s.session.copiedPose);
  const { plan: scene } = useAppSelector(selectPreviewPlan);
  const from = scene.characters.find((c) => c.character.id === copied?.character)?.skeleton;
  const pose = (posed: readonly PosedJoint[], label: string): void => {
    const edit = withFirstSpan(layer, frame, framesPerSecond(plan.rate), poseEdit(plan, layer, frame, posed));
    if (edit.type === 'several') void dispatch(commit({ ...edit, label }));
  };
  const copy = (): void => {
    dispatch(sessionActions.poseCopied({ character: plan.character.id, pose: copyPose(plan, frame) }));
    dispatch(sessionActions.announced(`Pose of ${plan.character.name} at frame ${frame} copied`));
  };
  const paste = (mirrored: boolean): void => {
    if (copied && from)
      pose(
        pastedPose(from, copied.pose, plan, layer.id, frame, mirrored),
        mirrored ? 'paste of a mirrored pose' : 'paste of a pose',
      );
  };
  const keyed = Object.keys(layer.keys).map((name) => plan.skeleton.names.indexOf(name));
  const reset = (joints: readonly number[]): void =>
    pose(poseBelow(plan, layer.id, frame, joints), 'reset to the pose below');
  return (
    <>
      <div className="flex flex-wrap gap-1.5 pt-1">
        <Button onClick={copy}>Copy pose</Button>
        <Button disabled={!from} onClick={() => paste(false)}>
          Paste pose
        </Button>
        <Button disabled={!from} onClick={() => paste(true)}>
          Paste mirrored
        </Button>
        <Button
          title="Key the joint as it is below this layer"
          disabled={joint < 0}
          onClick={() => reset([joint])}
        >
          Reset joint
        </Button>
        <Button
          title="Key all joints of this layer as they are below it"
          disabled={keyed.length === 0}
          onClick={() => reset(keyed)}
        >
          Reset pose
        </Button>
      </div>
      <Breakdown layer={layer} frame={frame} onEdit={(edit) => dispatch(commit(edit))} />
    </>
  );
}

interface BreakdownProps {
  readonly layer: LayerLane;
  readonly frame: number;
  readonly onEdit: (edit: Edit) => void;
}

/** A key at the playhead between the keys around it; offered where there are keys on both sides. */
function Breakdown({ layer, frame, onEdit }: BreakdownProps) {
  const [share, setShare] = useState(50);
  if (!breakdownEdit(layer, frame, 0.5)) return null;
  const put = (percent: number): void => {
    setShare(percent);
    const edit = breakdownEdit(layer, frame, percent / 100);
    if (edit) onEdit(edit);
  };
  return (
    <NumberField
      label="Between the keys around"
      unit="%"
      digits={0}
      least={-50}
      most={150}
      step={1}
      value={share}
      onChange={put}
    />
  );
}
