import { useThree } from '@react-three/fiber';
import type { CharacterPlan, Rate } from '@warper/core';
import type { ComponentType } from 'react';
import { memo, useEffect, useMemo, useState } from 'react';
import type { BufferGeometry } from 'three';
import { DoubleSide } from 'three';
import { hueColour } from './colours';
import { footprintShape } from './footprintShape';
import type { Facing, FloorTrace } from './paths';
import { NO_TRACE, TICK, floorTrace, traceSteps } from './paths';
import { layered, ribbon } from './ribbon';

/** Heights over the floor, metres: apart enough not to flicker, low enough not to be seen. */
const HEIGHT = { band: 0.003, line: 0.005 };
const BAND_WIDTH = 0.16;
const LINE_WIDTH = 0.014;

interface Props {
  readonly plan: CharacterPlan;
  readonly rate: Rate;
  /** What is taken hold of along the path, where it can be changed. */
  readonly Grips?: ComponentType<{ readonly plan: CharacterPlan; readonly facings: readonly Facing[] }>;
}

/** The floor path of a character as a ribbon, and its footprints. */
export const FloorPath = memo(function FloorPath({ plan: shown, rate, Grips }: Props) {
  const { plan, trace } = useTrace(shown, rate);
  const colour = hueColour(plan.character.hue);
  const invalidate = useThree((s) => s.invalidate);
  const shape = useMemo(() => pathShape(trace), [trace]);
  useEffect(() => {
    invalidate();
    return () => shape.dispose();
  }, [shape, invalidate]);
  return (
    <>
      <mesh geometry={shape} raycast={nothing} matrixAutoUpdate={false}>
        <meshBasicMaterial
          color={colour}
          vertexColors
          transparent
          depthWrite={false}
          side={DoubleSide}
          forceSinglePass
        />
      </mesh>
      {Grips && <Grips plan={plan} facings={trace.facings} />}
    </>
  );
});

/**
 * The way of the root as a band with a line in it, on the line ticks from the path towards where the body faces, and the
 * footprints.
 */
function pathShape({ roots, facings, footprints }: FloorTrace): BufferGeometry {
  const tick = ({ x, z, heading }: Facing): BufferGeometry => {
    const [s, c] = [Math.sin(heading), Math.cos(heading)];
    const ends = [TICK.at - TICK.length / 2, TICK.at + TICK.length / 2].flatMap((d) => [
      x + s * d,
      z + c * d,
    ]);
    return ribbon(Float64Array.from(ends), TICK.width, HEIGHT.line);
  };
  return layered([
    { shape: ribbon(roots, BAND_WIDTH, HEIGHT.band), opacity: 0.14 },
    { shape: ribbon(roots, LINE_WIDTH, HEIGHT.line), opacity: 0.75 },
    ...facings.map((f) => ({ shape: tick(f), opacity: 0.8 })),
    ...footprints.map((p) => ({ shape: footprintShape(p), opacity: 0.55 })),
  ]);
}

/** What lies on the floor is not met with a pointer: ticks are too fine, and what is taken of them lies around them. */
const nothing = (): void => {};

/** Joints times frames up to which the trace of a performance is made with every picture of a drag. */
const LITTLE = 20_000;
/** What a keyed joint of a layer takes against one that is only played. */
const KEYED = 4;
/** Milliseconds without a change after which a longer one is made anew. */
const SETTLED = 300;
/** Milliseconds that it takes at a time, so that the page goes on meanwhile. */
const SLICE = 6;

/** How much there is to evaluate for the trace of a performance. */
const workOf = ({ start, end, skeleton, layers }: CharacterPlan): number =>
  (end - start) * (skeleton.names.length + KEYED * layers.reduce((sum, l) => sum + l.keys.length, 0));

/** A performance and what it leaves on the floor. */
interface Traced {
  readonly plan: CharacterPlan;
  readonly trace: FloorTrace;
}

/** The trace of a performance: at once where there is little to it, else as it was until it has been made anew bit by bit. */
function useTrace(plan: CharacterPlan, rate: Rate): Traced {
  const [made, setMade] = useState<Traced | null>(null);
  const isLong = workOf(plan) > LITTLE;
  const wait = made ? SETTLED : 0;
  useEffect(() => {
    if (!isLong) return;
    const steps = traceSteps(plan, rate);
    let timer = setTimeout(work, wait);
    function work(): void {
      for (const began = performance.now(); performance.now() - began < SLICE;) {
        const step = steps.next();
        if (step.done) return setMade({ plan, trace: step.value });
      }
      timer = setTimeout(work);
    }
    return () => clearTimeout(timer);
    // Only a performance that was never traced is not waited for.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [plan, rate, isLong]);
  if (!isLong) return { plan, trace: floorTrace(plan, rate) };
  return made ?? { plan, trace: NO_TRACE };
}
