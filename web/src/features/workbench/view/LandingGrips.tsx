import type { ThreeEvent } from '@react-three/fiber';
import { useThree } from '@react-three/fiber';
import type { CharacterPlan, Leg, Role, SegmentPlan, Stepping } from '@warper/core';
import { defined, evaluate, makePoseBuffer, makeWorldPose, poseToWorld, roleWords } from '@warper/core';
import { useEffect, useState } from 'react';
import { themeColour } from '../../../parts/stage/colours';
import { selectPreviewPlan } from '../../../store/selectors';
import { useAppSelector } from '../../../store/store';
import { landingBy, withLanding } from '../card/joinEdit';
import { stepInHand } from '../stepInHand';
import type { FloorEdit } from './useFloorDrag';
import { Tape } from './Tape';
import { useFloorDrag } from './useFloorDrag';

/** Half the width and length of a sole on the floor, metres, and its height over it. */
const SOLE = { across: 0.075, along: 0.15, height: 0.016 };

/** For the made step in hand: the sole of each foot where it lands, to be dragged over the floor. */
export function LandingGrips() {
  const { plan } = useAppSelector(selectPreviewPlan);
  const step = useAppSelector(stepInHand);
  if (!step) return null;
  for (const character of plan.characters) {
    const segment = character.segments.find((s) => s.id === step.segment);
    if (segment?.madeStep)
      return <Soles key={segment.id} character={character} segment={segment} join={step.join} />;
  }
  return null;
}

interface Props {
  readonly character: CharacterPlan;
  readonly segment: SegmentPlan;
  /** The step as it is in the document, not as a drag in hand shows it. */
  readonly join: Stepping;
}

function Soles({ character, segment, join }: Props) {
  const { skeleton } = character;
  const pose = evaluate(character, segment.start + segment.overlap, makePoseBuffer(skeleton));
  const heading = defined(pose.root[2]);
  const { positions } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
  return defined(segment.madeStep).legs.map((leg) => {
    const at = (joint: number, k: number): number => defined(positions[joint * 3 + k]);
    const tip = leg.tip < 0 ? leg.ankle : leg.tip;
    const [x, z] = [at(tip, 0) - at(leg.ankle, 0), at(tip, 2) - at(leg.ankle, 2)];
    return (
      <Sole
        key={leg.ankle}
        name={`${roleWords(roleOf(segment, leg))} lands here`}
        place={{ x: at(leg.ankle, 0) + x / 2, z: at(leg.ankle, 2) + z / 2 }}
        heading={Math.hypot(x, z) > 0.01 ? Math.atan2(x, z) : heading}
        edit={dragOf(segment, leg, join, heading)}
      />
    );
  });
}

/** Legs are found by the roles of their joints. */
const roleOf = ({ clip }: SegmentPlan, leg: Leg): Role => defined(clip.skeleton.roles[leg.ankle]);

/** The edit of a foot that is dragged over the floor, by how far it was. */
function dragOf(segment: SegmentPlan, leg: Leg, join: Stepping, heading: number): (at: Point) => FloorEdit {
  const role = roleOf(segment, leg);
  return (at) => (point) => {
    const place = landingBy(join.landings[role], { x: point.x - at.x, z: point.z - at.z }, heading);
    return { type: 'seam', segment: segment.id, values: {}, join: withLanding(join, role, place) };
  };
}

interface Point {
  readonly x: number;
  readonly z: number;
}

interface SoleProps {
  /** What it is, as a hint of the pointer. */
  readonly name: string;
  readonly place: Point;
  /** Radians. */
  readonly heading: number;
  readonly edit: (at: Point) => FloorEdit;
}

function Sole({ name, place, heading, edit }: SoleProps) {
  const invalidate = useThree((s) => s.invalidate);
  const canvas = useThree((s) => s.gl.domElement);
  const floor = useFloorDrag();
  const [over, setOver] = useState(false);
  useEffect(() => invalidate(), [place.x, place.z, heading, over, invalidate]);
  const hover = (on: boolean): void => {
    setOver(on);
    canvas.title = on ? name : '';
    window.document.body.style.cursor = on ? 'move' : '';
  };
  return (
    <group
      position={[place.x, SOLE.height, place.z]}
      rotation={[-Math.PI / 2, 0, heading]}
      scale={[SOLE.across, SOLE.along, 1]}
      userData={{ handle: true }}
    >
      <mesh
        renderOrder={7}
        onPointerDown={(e: ThreeEvent<PointerEvent>) => floor.begin(e, edit)}
        onPointerMove={floor.onPointerMove}
        onPointerUp={floor.onPointerUp}
        onPointerOver={(e: ThreeEvent<PointerEvent>) => {
          e.stopPropagation();
          hover(true);
        }}
        onPointerOut={() => hover(false)}
      >
        <circleGeometry args={[1, 32]} />
        <Tape colour={themeColour('--raised')} opacity={over ? 1 : 0.75} />
      </mesh>
      <mesh renderOrder={8} raycast={() => null}>
        <ringGeometry args={[0.86, 1, 32]} />
        <Tape colour={themeColour('--ink')} opacity={0.9} />
      </mesh>
    </group>
  );
}
