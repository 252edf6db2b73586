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
      let [ownPop, ownStep, ownAcceleration] = [swing.pop, swing.speed, swing.acceleration];
      for (const w of windows) {
        ownPop = larger(popAt(w, f, j, joints), ownPop);
        ownStep = larger(stepAt(w, f, j, joints), ownStep);
        ownAcceleration = larger(accelerationAt(w, f - 1, j, joints), ownAcceleration);
        ownAcceleration = larger(accelerationAt(w, f, j, joints), ownAcceleration);
      }
      const pop = popAt(played, f, j, joints) - ownPop;
      const surge = stepAt(played, f, j, joints) - ownStep;
      if (Math.max(pop, surge) > Math.max(worst.pop, worst.surge)) worst.joint = j;
      // An acceleration touches the step before and the step after its frame.
      peaks.played = Math.max(
        peaks.played,
        accelerationAt(played, f - 1, j, joints),
        accelerationAt(played, f, j, joints),
      );
      peaks.own = Math.max(peaks.own, ownAcceleration);
      worst.pop = Math.max(worst.pop, pop);
      worst.surge = Math.max(worst.surge, surge);
    }
    const turn =
      headingStep(played, f) -
      Math.max(
        around,
        windows.reduce((most, w) => larger(headingStep(w, f), most), 0),
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

/** A value where it is larger than the largest so far; never one that is not known. */
const larger = (value: number, most: number): number => (value > most ? value : most);

// The measures below are taken of every joint at every frame of every seam, after every edit: written out, since closures
// and arrays take most of their time.

/** Size of the acceleration of joint j at frame f, metres a frame a frame. */
function accelerationAt({ places }: Window, f: number, j: number, joints: number): number {
  const row = joints * 3;
  const at = f * row + j * 3;
  let sum = 0;
  for (let i = at; i < at + 3; i++) {
    const a = places[i + row]! - 2 * places[i]! + places[i - row]!;
    sum += a * a;
  }
  return Math.sqrt(sum);
}

/** Length of the step of joint j into frame f, metres. */
function stepAt({ places }: Window, f: number, j: number, joints: number): number {
  const row = joints * 3;
  const at = f * row + j * 3;
  let sum = 0;
  for (let i = at; i < at + 3; i++) sum += (places[i]! - places[i - row]!) ** 2;
  return Math.sqrt(sum);
}

/** |step - mean of the steps before and after| of joint j at frame f, as a vector, metres. */
function popAt({ places }: Window, f: number, j: number, joints: number): number {
  const row = joints * 3;
  const at = f * row + j * 3;
  let sum = 0;
  for (let i = at; i < at + 3; i++) {
    const before = places[i - row]!;
    const step = places[i]! - before;
    const mean = (before - places[i - 2 * row]! + places[i + row]! - places[i]!) / 2;
    sum += (step - mean) ** 2;
  }
  return Math.sqrt(sum);
}

const headingStep = ({ roots }: Window, f: number): number =>
  Math.abs(shortestTurn(roots[f * 3 + 2]! - roots[f * 3 - 1]!));
