import { useFrame, useThree } from '@react-three/fiber';
import type { CharacterPlan, SegmentPlan } from '@warper/core';
import { defined, makePoseBuffer, makeWorldPose, poseToWorld } from '@warper/core';
import { cloudJoints, fitPoints, segmentPose, toParentSpace, writeCloud } from '@warper/core/kernels';
import { useEffect, useMemo } from 'react';
import { boneFigure } from '../../../parts/stage/boneFigure';
import { hueColour } from '../../../parts/stage/colours';
import { useAppSelector } from '../../../store/store';

/** While two moments are compared: both poses over each other, the incoming one laid onto the outgoing one. */
export function ComparedPoses({ plan }: { readonly plan: CharacterPlan }) {
  const compared = useAppSelector((s) => s.session.compared);
  const index = compared ? plan.segments.findIndex((s) => s.id === compared.segment) : -1;
  if (!compared || index < 1) return null;
  const [outgoing, incoming] = [defined(plan.segments[index - 1]), defined(plan.segments[index])];
  return (
    <Poses
      plan={plan}
      outgoing={outgoing}
      incoming={incoming}
      out={outgoing.start + compared.out}
      into={incoming.start + compared.in}
    />
  );
}

interface PosesProps {
  readonly plan: CharacterPlan;
  readonly outgoing: SegmentPlan;
  readonly incoming: SegmentPlan;
  /** Frames of the scene. */
  readonly out: number;
  readonly into: number;
}

function Poses({ plan, outgoing, incoming, out, into }: PosesProps) {
  const invalidate = useThree((s) => s.invalidate);
  const { skeleton, character } = plan;
  const figures = useMemo(() => {
    const colour = hueColour(character.hue);
    return [
      boneFigure(skeleton, colour, { opacity: 0.75 }),
      boneFigure(skeleton, colour, { opacity: 0.4 }),
    ] as const;
  }, [skeleton, character.hue]);
  useEffect(() => {
    invalidate();
    return () => invalidate();
  }, [out, into, figures, invalidate]);
  useEffect(() => () => figures.forEach((f) => f.dispose()), [figures]);
  useFrame(() => {
    const [first, second] = figures;
    const joints = cloudJoints(skeleton);
    const world = makeWorldPose(skeleton);
    const cloudOf = (segment: SegmentPlan, frame: number, figure: typeof first): Float64Array => {
      const pose = toParentSpace(skeleton, segmentPose(segment, frame, true, makePoseBuffer(skeleton)));
      figure.pose(pose);
      const cloud = new Float64Array(joints.length * 3);
      writeCloud(poseToWorld(skeleton, pose, world), joints, cloud, 0);
      return cloud;
    };
    const a = cloudOf(outgoing, out, first);
    const b = cloudOf(incoming, into, second);
    const move = fitPoints(a, b, new Float64Array(joints.length).fill(1));
    second.object.position.set(move?.x ?? 0, 0, move?.z ?? 0);
    second.object.rotation.set(0, move?.turn ?? 0, 0);
  });
  return (
    <>
      <primitive object={figures[0].object} />
      <primitive object={figures[1].object} />
    </>
  );
}
