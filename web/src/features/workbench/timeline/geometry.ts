/** Measures of the timeline, pixels. */
export const HEADER_WIDTH = 148;
export const RULER_HEIGHT = 28;
export const LANE_HEIGHT = 86;
export const LAYER_HEIGHT = 44;
/** Height of a list of keys of an unfolded layer. */
export const KEY_ROW = 15;
/** Height of the lane of a prop that plays nothing, and of a tether's ribbon below a lane. */
export const PROP_HEIGHT = 42;
export const TETHER_ROW = 17;
/** Height of the camera lane, and of the keys at its bottom. */
export const SHOT_ROW = 54;
export const SHOT_KEYS = 16;
/** Height of a sound lane, and of the lane of lines. */
export const SOUND_ROW = 46;
export const LINE_ROW = 32;
export const FOLDED_HEIGHT = 30;
export const TAG_ROOM = 19;
export const SEGMENT_HEIGHT = 54;
export const LAYER_SEGMENT_HEIGHT = 32;
/** Where two edges are near enough to meet; steps draw less than ends. */
export const SNAP_PIXELS = 7;
export const STEP_SNAP_PIXELS = 4;

/** Frames between labelled ticks and between fine ticks, so that labels stand about 80 pixels apart. */
export function tickSteps(pixelsPerFrame: number, framesPerSecond: number): { label: number; fine: number } {
  const fps = Math.round(framesPerSecond);
  const steps = [
    1,
    2,
    5,
    10,
    fps / 2,
    fps,
    fps * 2,
    fps * 3,
    fps * 5,
    fps * 10,
    fps * 30,
    fps * 60,
    fps * 120,
  ].map(Math.round);
  const label = steps.find((s) => s > 0 && s * pixelsPerFrame >= 72) ?? fps * 300;
  const fine = steps.find((s) => s > 0 && label % s === 0 && s * pixelsPerFrame >= 7) ?? label;
  return { label, fine };
}

/** A frame that edges snap to, and from how far. */
export interface Target {
  readonly frame: number;
  readonly pixels: number;
}

/** The target nearest to a frame within its snapping distance, else null. */
export function snap(frame: number, targets: readonly Target[], pixelsPerFrame: number): number | null {
  let best: number | null = null;
  let distance = Infinity;
  for (const target of targets) {
    const d = Math.abs(target.frame - frame);
    // Of two that are as near the one that draws from further counts.
    if (d * pixelsPerFrame < target.pixels && d - target.pixels * 1e-6 < distance) {
      distance = d - target.pixels * 1e-6;
      best = target.frame;
    }
  }
  return best;
}
