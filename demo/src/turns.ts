import type { Build } from './build';
import type { Footfall } from './gait';
import type { Take } from './takes';
import {
  DEG,
  HALF_WIDTH,
  HANDLE_SECONDS,
  STEP,
  STEP_SECONDS,
  TOE_OUT,
  ahead,
  full,
  steady,
  travelling,
} from './takes';

/** Most degrees that one step of a turn takes. */
const DEGREES_A_STEP = 40;
/** Length of the steps before, in and after a turn, metres. */
const LENGTHS = { into: 0.52, turning: 0.36, out: 0.52 };

/** A place on the line that a turning walker's middle follows. */
interface OnLine {
  readonly x: number;
  readonly z: number;
  readonly heading: number;
}

/** The line of a turn: ahead to `from`, round an arc of so many metres, and on. */
function turnLine(from: number, arc: number, turn: number): (along: number) => OnLine {
  const radius = arc / Math.abs(turn);
  const way = Math.sign(turn);
  const onArc = (a: number): OnLine => ({
    x: way * radius * (1 - Math.cos(a)),
    z: from + radius * Math.sin(a),
    heading: way * a,
  });
  return (along) => {
    if (along <= from) return { x: 0, z: along, heading: 0 };
    if (along <= from + arc) return onArc((along - from) / radius);
    const end = onArc(arc / radius);
    const rest = along - from - arc;
    return {
      x: end.x + rest * Math.sin(end.heading),
      z: end.z + rest * Math.cos(end.heading),
      heading: end.heading,
    };
  };
}

const footOn = (p: OnLine, side: number): Pick<Footfall, 'x' | 'z' | 'heading'> => ({
  x: p.x + side * HALF_WIDTH * Math.cos(p.heading),
  z: p.z - side * HALF_WIDTH * Math.sin(p.heading),
  heading: p.heading + side * TOE_OUT,
});

/**
 * A walk that turns by any angle without stopping, positive to the left, and walks on: it begins and ends in the step in
 * which the walk begins.
 */
export function turnBy(degrees: number): (b: Build) => Take {
  return (b) => {
    const { left, right } = steady(-8, 0, ahead);
    const falls = { left: [...left], right: [...right] };
    const turn = degrees * DEG;
    const steps = Math.max(1, Math.ceil(Math.abs(degrees) / DEGREES_A_STEP));
    const line = turnLine(LENGTHS.into, steps * LENGTHS.turning, turn);
    let along = 0;
    let n = 0;
    let ends = Infinity;
    const walked = (): boolean => n >= ends + 8;
    while (!walked()) {
      n++;
      const inTurn = n >= 2 && n <= steps + 1;
      const length = n === 1 ? LENGTHS.into : inTurn ? LENGTHS.turning : n === steps + 2 ? LENGTHS.out : STEP;
      along += length;
      const side = n % 2 === 0 ? 1 : -1;
      const fall = full(0, 0, 0, n * STEP_SECONDS, Math.min(1, (length / STEP) ** 1.5));
      falls[side === 1 ? 'left' : 'right'].push({ ...fall, ...footOn(line(along), side) });
      if (ends === Infinity && n >= steps + 4 && n % 2 === 0) ends = n;
    }
    const name = `Turn ${degrees > 0 ? 'left' : 'right'} ${Math.abs(degrees)}`;
    return travelling(b, name, falls, -HANDLE_SECONDS, ends * STEP_SECONDS + HANDLE_SECONDS);
  };
}

/** Degrees by which the drifting walk turns to the left in each cycle of two steps. */
export const DRIFT_DEGREES = 6;

/** A walk that is meant to go straight and does not: one cycle, as such clips come from a stage. */
export function walkDrifting(b: Build): Take {
  const radius = (2 * STEP) / (DRIFT_DEGREES * DEG);
  const work = steady(-8, 10, (z, side) => {
    const a = z / radius;
    return footOn({ x: radius * (1 - Math.cos(a)), z: radius * Math.sin(a), heading: a }, side);
  });
  return travelling(b, 'Walk drifting', work, 0, 2 * STEP_SECONDS);
}
