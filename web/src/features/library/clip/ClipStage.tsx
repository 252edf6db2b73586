import { defined } from '@warper/core';
import { OrbitControls, PerspectiveCamera } from '@react-three/drei';
import { useThree } from '@react-three/fiber';
import type { Plan } from '@warper/core';
import { useEffect, useMemo } from 'react';
import { useAppSelector } from '../../../store/store';
import { PosedFigure } from '../../../parts/stage/CharacterFigure';
import { Floor } from '../../../parts/stage/Floor';
import { FloorPath } from '../../../parts/stage/FloorPath';
import { floorTrace } from '../../../parts/stage/paths';
import type { Playing } from './usePlaying';
import { StageCanvas } from '../../../parts/stage/StageCanvas';

/** Directions from which a clip is looked at. */
export const SIDES = {
  around: [0.75, 0.34, 0.68],
  front: [0, 0.14, 1],
  side: [1, 0.14, 0],
  above: [0, 1, 0.001],
} as const;
export type Side = keyof typeof SIDES;

const LOOK_HEIGHT = 0.8;

interface Props {
  readonly plan: Plan;
  readonly playing: Playing;
  readonly side: Side;
}

/** A clip on the floor, with the way that it goes and where its feet stand. */
export function ClipStage({ plan, playing, side }: Props) {
  const theme = useAppSelector((s) => s.session.theme);
  const [character] = plan.characters;
  return (
    <StageCanvas frameloop="demand">
      <Floor theme={theme} />
      <hemisphereLight args={['#ffffff', '#b9ae9a', 2.3]} />
      <directionalLight position={[3, 6, 4]} intensity={1.9} />
      {character && <FloorPath key={theme} plan={character} rate={plan.rate} />}
      {character && <PosedFigure plan={character} frameNow={playing.now} />}
      <StageCamera plan={plan} side={side} />
      <RedrawAt playing={playing} />
    </StageCanvas>
  );
}

function RedrawAt({ playing }: { playing: Playing }) {
  const invalidate = useThree((s) => s.invalidate);
  useEffect(() => playing.watch(() => invalidate()), [playing, invalidate]);
  return null;
}

function StageCamera({ plan, side }: { plan: Plan; side: Side }) {
  const { centre, distance } = useMemo(() => frameOf(plan), [plan]);
  const [x, y, z] = SIDES[side];
  const length = Math.hypot(x, y, z);
  const invalidate = useThree((s) => s.invalidate);
  useEffect(() => invalidate(), [side, centre, invalidate]);
  return (
    <>
      <PerspectiveCamera
        key={`${side}-${centre.join()}`}
        makeDefault
        fov={32}
        near={0.05}
        far={120}
        position={[
          centre[0] + (x / length) * distance,
          LOOK_HEIGHT + (y / length) * distance,
          centre[1] + (z / length) * distance,
        ]}
      />
      <OrbitControls
        key={side}
        makeDefault
        enableDamping={false}
        maxPolarAngle={Math.PI * 0.495}
        minDistance={0.8}
        maxDistance={60}
        target={[centre[0], LOOK_HEIGHT, centre[1]]}
      />
    </>
  );
}

/** Middle of the way on the floor, and a distance from which all of it is seen, metres. */
function frameOf(plan: Plan): { centre: readonly [number, number]; distance: number } {
  const [character] = plan.characters;
  if (!character) return { centre: [0, 0], distance: 5 };
  const { roots } = floorTrace(character, plan.rate);
  const range = (k: number): [number, number] => {
    let [least, most] = [Infinity, -Infinity];
    for (let i = k; i < roots.length; i += 2) {
      least = Math.min(least, defined(roots[i]));
      most = Math.max(most, defined(roots[i]));
    }
    return [least, most];
  };
  const [x, z] = [range(0), range(1)];
  const size = Math.hypot(x[1] - x[0], z[1] - z[0]);
  return { centre: [(x[0] + x[1]) / 2, (z[0] + z[1]) / 2], distance: Math.max(4.4, size * 1.1 + 3) };
}
