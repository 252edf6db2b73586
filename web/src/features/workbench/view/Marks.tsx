import type { Scene, Segment } from '@warper/core';
import { bodyLane, defined } from '@warper/core';
import { memo, useMemo } from 'react';
import { DoubleSide } from 'three';
import { hueColour } from '../../../parts/stage/colours';
import { ribbon } from '../../../parts/stage/ribbon';

/** Size of a cross of tape, metres, and its height over the floor. */
const TAPE = { length: 0.34, width: 0.035, height: 0.009 };
const PATH = { width: 0.02, height: 0.008 };

interface MarksProps {
  readonly segments: readonly Segment[];
  readonly hue: number;
  readonly theme: string;
}

/** The marks and drawn paths of a character's segments: crosses of tape with their facing, and thin lines. */
export const Marks = memo(function Marks({ segments, hue }: MarksProps) {
  const colour = hueColour(hue);
  return (
    <>
      {segments.flatMap((s) =>
        s.marks.map((m) => (
          <group
            key={`${s.id}-${m.frame}`}
            position={[m.x, TAPE.height, m.z]}
            rotation={[0, (m.heading * Math.PI) / 180, 0]}
          >
            {[1, -1].map((side) => (
              <mesh key={side} rotation={[-Math.PI / 2, 0, (side * Math.PI) / 4]}>
                <planeGeometry args={[TAPE.width, TAPE.length]} />
                <meshBasicMaterial color={colour} side={DoubleSide} />
              </mesh>
            ))}
            <mesh position={[0, 0, TAPE.length * 0.75]} rotation={[-Math.PI / 2, 0, 0]}>
              <planeGeometry args={[TAPE.width, TAPE.length * 0.5]} />
              <meshBasicMaterial color={colour} side={DoubleSide} />
            </mesh>
          </group>
        )),
      )}
      {segments
        .filter((s) => s.path.length > 1)
        .map((s) => (
          <DrawnPath key={s.id} path={s.path} colour={colour} />
        ))}
    </>
  );
}, sameMarks);

function sameMarks(a: MarksProps, b: MarksProps): boolean {
  const same = a.segments.length === b.segments.length && a.segments.every((s, i) => s === b.segments[i]);
  return same && a.hue === b.hue && a.theme === b.theme;
}

/** The segments of a character that have marks or a path to show. */
export const markedSegments = (scene: Scene, character: string): readonly Segment[] =>
  (bodyLane(scene, character)?.segments ?? [])
    .map((id) => defined(scene.segments[id]))
    .filter((s) => s.marks.length > 0 || s.path.length > 1);

function DrawnPath({ path, colour }: { path: Segment['path']; colour: string }) {
  const geometry = useMemo(() => ribbon(Float64Array.from(path.flat()), PATH.width, PATH.height), [path]);
  return (
    <mesh geometry={geometry}>
      <meshBasicMaterial color={colour} transparent opacity={0.5} side={DoubleSide} forceSinglePass />
    </mesh>
  );
}
