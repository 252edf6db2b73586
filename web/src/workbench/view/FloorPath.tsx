import { useThree } from '@react-three/fiber';
import type { CharacterPlan, Rate } from '@warper/core';
import { useEffect, useMemo, useRef } from 'react';
import type { InstancedMesh } from 'three';
import { DoubleSide, Matrix4 } from 'three';
import { hueColour } from './colours';
import { floorTrace } from './paths';
import { ribbon } from './ribbon';

/** Heights over the floor, metres: apart enough not to flicker, low enough not to be seen. */
const HEIGHT = { band: 0.003, line: 0.005, print: 0.007 };
const BAND_WIDTH = 0.16;
const LINE_WIDTH = 0.014;

/** The floor path of a character as a ribbon, and its footprints. */
export function FloorPath({ plan, rate }: { plan: CharacterPlan; rate: Rate }) {
  const trace = floorTrace(plan, rate);
  const colour = hueColour(plan.character.hue);
  const invalidate = useThree((s) => s.invalidate);
  const band = useMemo(() => ribbon(trace.roots, BAND_WIDTH, HEIGHT.band), [trace]);
  const line = useMemo(() => ribbon(trace.roots, LINE_WIDTH, HEIGHT.line), [trace]);
  const prints = useRef<InstancedMesh>(null);
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
    if (prints.current) prints.current.instanceMatrix.needsUpdate = true;
    invalidate();
  }, [trace, invalidate]);
  return (
    <>
      <mesh geometry={band}>
        <meshBasicMaterial color={colour} transparent opacity={0.14} depthWrite={false} side={DoubleSide} />
      </mesh>
      <mesh geometry={line}>
        <meshBasicMaterial color={colour} transparent opacity={0.75} depthWrite={false} side={DoubleSide} />
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
    </>
  );
}
