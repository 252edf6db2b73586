import type { CharacterPlan } from '@warper/core';
import { LANE_HEIGHT } from '../geometry';
import { headingFact } from './laneFacts';
import type { Pen } from './pen';

/** Pixels between two pointers, at least. */
const APART = 44;
const STEPS = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1200, 3000, 6000];

/**
 * Draws which way a character faces along its lane, as seen from above with the viewer of the front below: facing the
 * viewer, heading 0, points down. False where some of it is not known yet.
 */
export function drawFacing(pen: Pen, plan: CharacterPlan): boolean {
  if (plan.segments.length === 0) return true;
  const { ctx } = pen;
  const step = STEPS.find((n) => n * pen.ppf >= APART) ?? STEPS.at(-1)!;
  const first = Math.ceil(Math.max(pen.frame(-10), plan.start) / step) * step;
  const last = Math.min(pen.frame(pen.width + 10), plan.end);
  let whole = true;
  ctx.beginPath();
  for (let f = first; f < last; f += step) {
    const heading = headingFact(plan, f);
    if (heading === undefined) {
      whole = false;
      continue;
    }
    const [x, y] = [pen.x(f), LANE_HEIGHT - 6.5];
    const [dx, dy] = [Math.sin(heading), Math.cos(heading)];
    const put = (along: number, across: number): [number, number] => [
      x + (along * dx + across * dy) * 1.1,
      y + (along * dy - across * dx) * 1.1,
    ];
    ctx.moveTo(...put(-4, 0));
    ctx.lineTo(...put(3.4, 0));
    ctx.moveTo(...put(1, -2.4));
    ctx.lineTo(...put(4, 0));
    ctx.lineTo(...put(1, 2.4));
  }
  ctx.strokeStyle = pen.palette.hues[plan.character.hue]!;
  ctx.lineWidth = 1.4;
  ctx.stroke();
  return whole;
}
