import type { Scene, SegmentPlan } from '@warper/core';
import { beatFrames, framesPerSecond, soundEnd } from '@warper/core';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import type { RootState } from '../../../store/store';
import type { Target } from './geometry';
import { SNAP_PIXELS, STEP_SNAP_PIXELS, snap } from './geometry';
import { plantedSpans } from './drawing/stepSpans';

/**
 * Frames that edges snap to: ends of segments, shots, sounds and lines that stay, the playhead, markers, the play range, beats, and near the
 * place in hand the steps of all feet.
 */
export function snapTargets(
  state: RootState,
  moving: ReadonlySet<string>,
  near: { readonly from: number; readonly to: number },
): Target[] {
  const { plan } = selectPreviewPlan(state);
  const scene = selectPreviewScene(state);
  const ends: number[] = [0, state.session.frame];
  const steps: number[] = [];
  const add = (segment: SegmentPlan): void => {
    if (moving.has(segment.id)) return;
    ends.push(segment.start, segment.end);
    if (segment.end < near.from || segment.start > near.to) return;
    for (const { from, to } of plantedSpans(segment)) steps.push(segment.start + from, segment.start + to);
  };
  for (const c of plan.characters) {
    c.segments.forEach(add);
    for (const layer of c.layers) layer.segments.forEach(add);
  }
  for (const m of scene.markers) ends.push(m.frame, ...(m.end === null ? [] : [m.end]));
  if (scene.range) ends.push(scene.range.from, scene.range.to);
  for (const shot of Object.values(scene.shots)) ends.push(shot.start, shot.end);
  for (const line of Object.values(scene.lines)) ends.push(line.start, line.end);
  const fps = framesPerSecond(plan.rate);
  for (const sound of Object.values(scene.sounds))
    if (!moving.has(sound.id)) ends.push(sound.start, Math.round(soundEnd(sound, fps)));
  return [
    ...beatTargets(scene, fps, moving),
    ...ends.map((frame) => ({ frame, pixels: SNAP_PIXELS })),
    ...steps.map((frame) => ({ frame, pixels: STEP_SNAP_PIXELS })),
  ];
}

/** The frames of beats of sounds that stay. */
const beatTargets = (
  { sounds }: Pick<Scene, 'sounds'>,
  fps: number,
  moving?: ReadonlySet<string>,
): Target[] =>
  Object.values(sounds)
    .filter((sound) => !moving?.has(sound.id))
    .flatMap((sound) => beatFrames(sound, fps))
    .map((frame) => ({ frame: Math.round(frame), pixels: STEP_SNAP_PIXELS }));

/** What a foot comes down on: beats, and markers. */
export function footfallTargets(state: RootState): Target[] {
  const scene = selectPreviewScene(state);
  const fps = framesPerSecond(selectPreviewPlan(state).plan.rate);
  return [
    ...beatTargets(scene, fps),
    ...scene.markers.map(({ frame }) => ({ frame, pixels: STEP_SNAP_PIXELS })),
  ];
}

/** What a key at a frame may snap to while it is dragged, but where it was; looked up once, when the drag begins. */
export const keyTargets = (state: RootState, frame: number): Target[] =>
  snapTargets(state, new Set(), { from: frame - NEAR_KEY, to: frame + NEAR_KEY }).filter(
    (t) => t.frame !== frame,
  );

/** Frames around a key in which steps are looked at to snap to. */
const NEAR_KEY = 600;

/** The whole frame at which a key comes to stand when it is dragged to a place: what it snaps to, else the nearest. */
export const keySnappedTo = (targets: readonly Target[], to: number, ppf: number): number =>
  Math.round(snap(to, targets, ppf) ?? to);

/** Ends of whole cycles of a loop that an edge can be drawn to. */
export function cycleTargets(plan: SegmentPlan, edge: 'start' | 'end', up: number): Target[] {
  const each = plan.period / plan.time.samplesPerFrame;
  const count = Math.min(2000, Math.ceil((plan.end - plan.start + up) / each) + 2);
  return Array.from({ length: count }, (_, n) => ({
    frame: edge === 'end' ? plan.start + Math.round((n + 1) * each) : plan.end - Math.round((n + 1) * each),
    pixels: SNAP_PIXELS,
  }));
}
