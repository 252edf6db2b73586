/** Measures of the timeline, pixels. */
export const HEADER_WIDTH = 148;
export const RULER_HEIGHT = 28;
export const LANE_HEIGHT = 82;
export const TAG_ROOM = 19;
export const SEGMENT_HEIGHT = 54;
/** Where two edges are near enough to meet. */
export const SNAP_PIXELS = 7;

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

/** The target nearest to a frame within the snapping distance, else the frame itself. */
export function snap(frame: number, targets: readonly number[], pixelsPerFrame: number): number {
  let best = frame;
  let distance = SNAP_PIXELS / pixelsPerFrame;
  for (const target of targets) {
    const d = Math.abs(target - frame);
    if (d < distance) {
      distance = d;
      best = target;
    }
  }
  return best;
}
