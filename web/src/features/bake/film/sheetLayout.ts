import type { CharacterPlan } from '@warper/core';
import { InputError, evaluate, makePoseBuffer, makeWorldPose, poseToWorld } from '@warper/core';
import type { BakeSpan } from '@warper/formats';

/** A picture of a sheet: where it is, and what it shows. */
export interface SheetCell {
  readonly name: string;
  readonly character: string;
  readonly span: string;
  readonly frame: number;
  /** Degrees from the front by which the camera has gone round, to the left of who is looked at. */
  readonly direction: number;
  /** Pixels of the sheet. */
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

export interface SheetLayout {
  readonly width: number;
  readonly height: number;
  readonly cells: readonly SheetCell[];
}

/** Largest side of a picture that browsers make. */
const MOST_PIXELS = 16_384;

/**
 * The pictures of a sheet: a row for each character, span and direction, a column for each of its frames that is shown.
 *
 * @param directions degrees
 *
 * @throws InputError `sheet-size` where that is more than a picture holds
 */
export function sheetLayout(
  characters: readonly string[],
  spans: readonly BakeSpan[],
  every: number,
  cell: { readonly width: number; readonly height: number },
  directions: readonly number[] = [0],
): SheetLayout {
  const rows = characters.flatMap((character) =>
    spans.flatMap(({ name, from, to }) =>
      directions.map((direction) => ({
        character,
        span: name,
        direction,
        frames: Array.from(
          { length: Math.max(1, Math.ceil((to - from) / every)) },
          (_, i) => from + i * every,
        ),
      })),
    ),
  );
  const width = Math.max(...rows.map((row) => row.frames.length)) * cell.width;
  const height = rows.length * cell.height;
  if (width > MOST_PIXELS || height > MOST_PIXELS) {
    throw new InputError(
      'sheet-size',
      `The sheet would be ${width} by ${height} pixels; ${MOST_PIXELS} are the most.`,
      {
        hint: 'Make the pictures smaller, or show fewer frames.',
      },
    );
  }
  const cells = rows.flatMap(({ character, span, direction, frames }, row) =>
    frames.map((frame, column): SheetCell => {
      const [x, y, w, h] = [column * cell.width, row * cell.height, cell.width, cell.height];
      return {
        name: [character, span, ...(directions.length > 1 ? [`${direction}°`] : []), frame]
          .filter((part) => part !== '')
          .join(' '),
        character,
        span,
        frame,
        direction,
        x,
        y,
        w,
        h,
      };
    }),
  );
  return { width, height, cells };
}

/** How far a body's skin reaches over its topmost joint and beside its outermost, in its height. */
const SKIN = 0.16;

/** Characters by names of their own: one that has another's name gets a number. */
export function byOwnNames(cast: readonly CharacterPlan[]): Map<string, CharacterPlan> {
  const named = new Map<string, CharacterPlan>();
  for (const plan of cast) {
    const { name } = plan.character;
    let own = name;
    for (let n = 2; named.has(own); n++) own = `${name} ${n}`;
    named.set(own, plan);
  }
  return named;
}

/** How large figures can be drawn so that all of them lie within their pictures, and where their floor is then. */
export function sheetScale(
  cast: ReadonlyMap<string, CharacterPlan>,
  cells: readonly SheetCell[],
  margin: number,
): { readonly pixelsPerMetre: number; readonly floor: number } {
  const reach = { top: 0.1, low: 0, wide: 0.1 };
  for (const [name, plan] of cast) {
    const buffer = makePoseBuffer(plan.skeleton);
    const world = makeWorldPose(plan.skeleton);
    for (const { frame, character } of cells)
      if (character === name) extendReach(reach, plan, frame, buffer, world);
  }
  const { top, low, wide } = reach;
  const [{ w, h } = { w: 64, h: 64 }] = cells;
  const pixelsPerMetre = Math.min((h - 2 * margin) / (top - low), (w / 2 - margin) / wide);
  return { pixelsPerMetre, floor: margin - low * pixelsPerMetre };
}

/** Takes in how high, how low and how far from its root a body reaches at a frame. */
function extendReach(
  reach: { top: number; low: number; wide: number },
  plan: CharacterPlan,
  frame: number,
  buffer: ReturnType<typeof makePoseBuffer>,
  world: ReturnType<typeof makeWorldPose>,
): void {
  const pose = evaluate(plan, frame, buffer);
  const [x, z] = [pose.root[0] ?? 0, pose.root[1] ?? 0];
  const skin = SKIN * restTop(plan.skeleton.rest.positions);
  const { positions } = poseToWorld(plan.skeleton, pose, world);
  for (let p = 0; p < positions.length; p += 3) {
    reach.top = Math.max(reach.top, (positions[p + 1] ?? 0) + skin);
    reach.low = Math.min(reach.low, positions[p + 1] ?? 0);
    reach.wide = Math.max(
      reach.wide,
      Math.hypot((positions[p] ?? 0) - x, (positions[p + 2] ?? 0) - z) + skin,
    );
  }
}

function restTop(positions: Float64Array): number {
  let top = 0;
  for (let p = 1; p < positions.length; p += 3) top = Math.max(top, positions[p] ?? 0);
  return top;
}
