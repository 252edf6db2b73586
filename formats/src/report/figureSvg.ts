import type { CharacterPlan } from '@warper/core';
import { evaluate, makePoseBuffer, makeWorldPose, poseToWorld } from '@warper/core';

/** A picture's size, in its own units, and how many of them are a metre. */
const WIDTH = 150;
const HEIGHT = 170;

/** Radius of a head as it is drawn, metres. */
const HEAD = 0.08;

/** Fingers and eyes are too small to be seen. */
const SMALL = /Thumb|Index|Middle|Ring|Little|Eye|jaw/;

/**
 * A character at some frames as lines from joint to joint, over one floor: from its front or its side at the middle one, which is drawn
 * darkest.
 */
export function figureSvg(
  plan: CharacterPlan,
  frames: readonly number[],
  view: 'front' | 'side',
  hue: string,
): string {
  const { skeleton } = plan;
  const middle = frames[frames.length >> 1] ?? 0;
  const root = evaluate(plan, middle, makePoseBuffer(skeleton)).root.slice();
  const heading = (root[2] ?? 0) + (view === 'front' ? 0 : Math.PI / 2);
  // Across the view: the floor's direction to the left of somebody who looks the way it is looked from.
  const across = [Math.cos(heading), -Math.sin(heading)] as const;
  const poses = frames.map((frame) => {
    const pose = evaluate(plan, frame, makePoseBuffer(skeleton));
    return poseToWorld(skeleton, pose, makeWorldPose(skeleton)).positions.slice();
  });
  const tall = Math.max(...poses.flatMap((p) => [...p].filter((_, i) => i % 3 === 1)), 0.5);
  const scale = (HEIGHT - 16) / (tall * 1.08);
  const point = (p: Float64Array, j: number): string => {
    const x = (p[j * 3]! - root[0]!) * across[0] + (p[j * 3 + 2]! - root[1]!) * across[1];
    return `${(WIDTH / 2 + x * scale).toFixed(1)} ${(HEIGHT - 10 - p[j * 3 + 1]! * scale).toFixed(1)}`;
  };
  const lines = poses.map((p, i) => {
    const isMiddle = frames[i] === middle;
    const path = skeleton.names
      .map((_, j) => j)
      .filter((j) => skeleton.parents[j]! >= 0 && !SMALL.test(skeleton.roles[j] ?? skeleton.names[j] ?? ''))
      .map((j) => `M${point(p, skeleton.parents[j]!)}L${point(p, j)}`)
      .join('');
    const head = skeleton.roles.indexOf('head');
    const [x = '0', y = '0'] = head < 0 ? [] : point(p, head).split(' ');
    const face = head < 0 ? '' : `<circle cx="${x}" cy="${y}" r="${(HEAD * scale).toFixed(1)}"/>`;
    const look = `stroke="${hue}" stroke-width="${isMiddle ? 3 : 2}" opacity="${isMiddle ? 1 : 0.3}"`;
    return `<g fill="none" stroke-linecap="round" ${look}><path d="${path}"/>${face}</g>`;
  });
  const floor = `<path d="M4 ${HEIGHT - 10}H${WIDTH - 4}" stroke="#D9D4C7"/>`;
  return `<svg viewBox="0 0 ${WIDTH} ${HEIGHT}" width="${WIDTH}" height="${HEIGHT}" role="img" aria-label="${view} view, frames ${frames.join(', ')}">${floor}${lines.join('')}</svg>`;
}
