import { useThree } from '@react-three/fiber';
import type { CharacterPlan, Rate } from '@warper/core';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import type { InstancedMesh } from 'three';
import { DoubleSide, Matrix4 } from 'three';
import { hueColour } from './colours';
import { FacingGrips, TICK } from './FacingGrips';
import { floorTrace } from './paths';
import { ribbon } from './ribbon';

/** Heights over the floor, metres: apart enough not to flicker, low enough not to be seen. */
const HEIGHT = { band: 0.003, line: 0.005, print: 0.007 };
const BAND_WIDTH = 0.16;
const LINE_WIDTH = 0.014;

/** The floor path of a character as a ribbon, and its footprints. */
export const FloorPath = memo(function FloorPath({ plan: shown, rate }: { plan: CharacterPlan; rate: Rate }) {
  const plan = useSettled(shown);
  const trace = floorTrace(plan, rate);
  const colour = hueColour(plan.character.hue);
  const invalidate = useThree((s) => s.invalidate);
  const band = useMemo(() => ribbon(trace.roots, BAND_WIDTH, HEIGHT.band), [trace]);
  const line = useMemo(() => ribbon(trace.roots, LINE_WIDTH, HEIGHT.line), [trace]);
  const prints = useRef<InstancedMesh>(null);
  const ticks = useRef<InstancedMesh>(null);
  useEffect(
    () => () => {
      band.dispose();
      line.dispose();
    },
    [band, line],
  );
  useEffect(() => {
    const matrix = new Matrix4();
    const scale = new Matrix4().makeScale(0.05, 1, 0.135);
    trace.footprints.forEach((p, i) => {
      matrix.makeRotationY(p.heading).setPosition(p.x, HEIGHT.print, p.z).multiply(scale);
      prints.current?.setMatrixAt(i, matrix);
    });
    trace.facings.forEach((p, i) => {
      // A short line from the path towards where the body faces.
      const [s, c] = [Math.sin(p.heading), Math.cos(p.heading)];
      matrix.makeRotationY(p.heading).setPosition(p.x + s * TICK.at, HEIGHT.line, p.z + c * TICK.at);
      ticks.current?.setMatrixAt(i, matrix);
    });
    if (ticks.current) ticks.current.instanceMatrix.needsUpdate = true;
    if (prints.current) prints.current.instanceMatrix.needsUpdate = true;
    invalidate();
  }, [trace, invalidate]);
  return (
    <>
      <mesh geometry={band}>
        <meshBasicMaterial
          color={colour}
          transparent
          opacity={0.14}
          depthWrite={false}
          side={DoubleSide}
          forceSinglePass
        />
      </mesh>
      <mesh geometry={line}>
        <meshBasicMaterial
          color={colour}
          transparent
          opacity={0.75}
          depthWrite={false}
          side={DoubleSide}
          forceSinglePass
        />
      </mesh>
      <instancedMesh
        key={trace.footprints.length}
        ref={prints}
        args={[undefined, undefined, trace.footprints.length]}
        frustumCulled={false}
      >
        <cylinderGeometry args={[1, 1, 0.0005, 24]} />
        <meshBasicMaterial color={colour} transparent opacity={0.55} depthWrite={false} />
      </instancedMesh>
      <instancedMesh
        key={`ticks${trace.facings.length}`}
        ref={ticks}
        args={[undefined, undefined, trace.facings.length]}
        frustumCulled={false}
        raycast={nothing}
      >
        <boxGeometry args={[TICK.width, 0.0005, TICK.length]} />
        <meshBasicMaterial color={colour} transparent opacity={0.8} depthWrite={false} />
      </instancedMesh>
      <FacingGrips plan={plan} facings={trace.facings} />
    </>
  );
});

/** Ticks are too fine to be met with a pointer; what is taken lies around them. */
const nothing = (): void => {};

/** Frames up to which the trace of a performance is made with every picture of a drag. */
const SHORT = 300;
/** Milliseconds without a change after which a longer one is made anew. */
const SETTLED = 140;

/** A plan as it was when it last stayed the same for a moment; a short one as it is. */
function useSettled(plan: CharacterPlan): CharacterPlan {
  const [settled, setSettled] = useState(plan);
  const long = plan.end - plan.start > SHORT;
  useEffect(() => {
    if (!long) return;
    const timer = setTimeout(() => setSettled(plan), SETTLED);
    return () => clearTimeout(timer);
  }, [plan, long]);
  return long ? settled : plan;
}
