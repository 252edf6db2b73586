import { shortestTurn } from '../math/floorMove';
import type { Swing } from '../steps/swings';
import type { Window } from './window';

/** When the joints of a window swing in a made step, which is judged by ordinary swings of the same clips. */
export interface Swings {
  /** First and last frame of the window, by joint; NaN where it does not swing. */
  readonly first: Float64Array;
  readonly last: Float64Array;
  readonly ordinary: Swing;
}

/** Worst pop, surge (metres) and turn (degrees) over the steps first..first + count - 1. */
export function worstOfSeam(
  played: Window,
  windows: readonly Window[],
  joints: number,
  first: number,
  count: number,
  swings: Swings | null,
): { pop: number; surge: number; turn: number; hitch: number; joint: number } {
  const worst = { pop: 0, surge: 0, turn: 0, hitch: 1, joint: 0 };
  const peaks = { played: 0, own: 0 };
  const around = Math.max(headingStep(played, first - 1), headingStep(played, first + count));
  for (let f = first; f < first + count; f++) {
    for (let j = 0; j < joints; j++) {
      const swing = swings && f >= swings.first[j]! && f <= swings.last[j]! ? swings.ordinary : NO_SWING;
      const ownPop = largest(windows, (w) => popAt(w, f, j, joints));
      const ownStep = largest(windows, (w) => stepAt(w, f, j, joints));
      const pop = popAt(played, f, j, joints) - Math.max(ownPop, swing.pop);
      const surge = stepAt(played, f, j, joints) - Math.max(ownStep, swing.speed);
      if (Math.max(pop, surge) > Math.max(worst.pop, worst.surge)) worst.joint = j;
      // An acceleration touches the step before and the step after its frame.
      peaks.played = Math.max(
        peaks.played,
        accelerationAt(played, f - 1, j, joints),
        accelerationAt(played, f, j, joints),
      );
      peaks.own = Math.max(
        peaks.own,
        swing.acceleration,
        largest(windows, (w) =>
          Math.max(accelerationAt(w, f - 1, j, joints) || 0, accelerationAt(w, f, j, joints) || 0),
        ),
      );
      worst.pop = Math.max(worst.pop, pop);
      worst.surge = Math.max(worst.surge, surge);
    }
    const turn =
      headingStep(played, f) -
      Math.max(
        around,
        largest(windows, (w) => headingStep(w, f)),
      );
    worst.turn = Math.max(worst.turn, (turn * 180) / Math.PI);
  }
  worst.hitch = peaks.played / Math.max(peaks.own, STILL_ACCELERATION);
  return worst;
}

const NO_SWING: Swing = { speed: 0, acceleration: 0, pop: 0 };

/**
 * Acceleration (metres a frame a frame) below which sources count as still: a joint that starts to move beside one that
 * rests is no hitch before it moves by millimetres.
 */
const STILL_ACCELERATION = 0.002;

/** Size of the acceleration of joint j at frame f, metres a frame a frame. */
function accelerationAt({ places }: Window, f: number, j: number, joints: number): number {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const at = (frame: number): number => places[(frame * joints + j) * 3 + k]!;
    const a = at(f + 1) - 2 * at(f) + at(f - 1);
    sum += a * a;
  }
  return Math.sqrt(sum);
}

/** The largest known value of the sources, 0 where none has samples there. */
const largest = (windows: readonly Window[], value: (w: Window) => number): number =>
  windows.reduce((most, w) => {
    const v = value(w);
    return v > most ? v : most;
  }, 0);

/** Length of the step of joint j into frame f, metres. */
function stepAt({ places }: Window, f: number, j: number, joints: number): number {
  const a = ((f - 1) * joints + j) * 3;
  const b = (f * joints + j) * 3;
  return Math.hypot(
    places[b]! - places[a]!,
    places[b + 1]! - places[a + 1]!,
    places[b + 2]! - places[a + 2]!,
  );
}

/** |step - mean of the steps before and after| of joint j at frame f, as a vector, metres. */
function popAt({ places }: Window, f: number, j: number, joints: number): number {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const at = (frame: number): number => places[(frame * joints + j) * 3 + k]!;
    const step = at(f) - at(f - 1);
    const mean = (at(f - 1) - at(f - 2) + at(f + 1) - at(f)) / 2;
    sum += (step - mean) * (step - mean);
  }
  return Math.sqrt(sum);
}

const headingStep = ({ roots }: Window, f: number): number =>
  Math.abs(shortestTurn(roots[f * 3 + 2]! - roots[f * 3 - 1]!));
