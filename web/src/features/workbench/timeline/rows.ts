import type { CharacterPlan, Lane, Plan, Scene, Segment, SegmentPlan } from '@warper/core';
import { bodyLane, keyListsOf, layerLanes, defined } from '@warper/core';
import type { Sight } from './useViewport';
import { FOLDED_HEIGHT, KEY_ROW, LANE_HEIGHT, LAYER_HEIGHT, PROP_HEIGHT, TETHER_ROW } from './geometry';
import { trackCount } from './tetherTracks';

/** One row of the timeline: a lane of a character, or all its lanes folded into one. */
export interface Row {
  readonly lane: Lane;
  readonly plan: CharacterPlan;
  readonly segments: readonly SegmentPlan[];
  readonly folded: boolean;
  /** Whether the keys of a layer have a row for each of their lists below it. */
  readonly showsKeys: boolean;
  /** The lowest row of its character, where the heading is told. */
  readonly top: number;
  readonly height: number;
  /** Pixels of it at the bottom in which the tethers of its character lie. */
  readonly below: number;
}

const NONE: readonly SegmentPlan[] = [];

/** The rows, each of them the object that it was where nothing of it has changed; the list too. */
export function sameRows(before: readonly Row[], current: readonly Row[]): readonly Row[] {
  const byLane = new Map(before.map((r) => [r.lane.id, r]));
  const rows = current.map((row) => {
    const previous = byLane.get(row.lane.id);
    const same = previous && (Object.keys(row) as (keyof Row)[]).every((k) => previous[k] === row[k]);
    return same ? previous : row;
  });
  return rows.length === before.length && rows.every((r, i) => r === before[i]) ? before : rows;
}

/** Pixels over the tethers of a prop that plays nothing. */
const BARE = 4;

/** Pixels below the tethers of a character. */
const BELOW_TETHERS = 3;

/** Pixels below the last of a layer's lists of keys. */
const BELOW_KEYS = 4;

/**
 * The rows of the timeline from top to bottom: of each character its layers, topmost first, over its body lane.
 *
 * @param unfolded the layers whose keys are shown list by list
 */
export function timelineRows(scene: Scene, plan: Plan, unfolded: readonly string[] = []): Row[] {
  const rows: Row[] = [];
  let top = 0;
  const add = (row: Omit<Row, 'top'>): void => {
    rows.push({ ...row, top });
    top += row.height;
  };
  for (const character of plan.characters) {
    const body = bodyLane(scene, character.character.id);
    if (!body) continue;
    const { folded } = character.character;
    if (!folded) {
      for (const lane of layerLanes(scene, character.character.id).reverse()) {
        if (lane.hidden) continue;
        const segments = character.layers.find((l) => l.id === lane.id)?.segments ?? NONE;
        const lists = unfolded.includes(lane.id) ? keyListsOf(lane).length : 0;
        const height = LAYER_HEIGHT + (lists > 0 ? lists * KEY_ROW + BELOW_KEYS : 0);
        add({ lane, plan: character, segments, folded, showsKeys: lists > 0, height, below: 0 });
      }
    }
    if (body.hidden) continue;
    const tracks = folded ? 0 : trackCount(scene.tethers, character.character.id);
    const below = tracks > 0 ? tracks * TETHER_ROW + BELOW_TETHERS : 0;
    const isBare = character.character.prop !== null && body.segments.length === 0;
    const own = folded ? FOLDED_HEIGHT : isBare ? Math.max(BARE, PROP_HEIGHT - below) : LANE_HEIGHT;
    add({
      lane: body,
      plan: character,
      segments: character.segments,
      folded,
      showsKeys: false,
      height: own + below,
      below,
    });
  }
  return rows;
}

/** Lanes that the timeline leaves out. */
export const hiddenLanes = (scene: Scene): Lane[] =>
  scene.laneOrder.map((id) => defined(scene.lanes[id])).filter((lane) => lane.hidden);

const ALL_PERFORMED: readonly Segment[] = [];

/** Segments of a row that are switched off, or left out with a muted group or lane. */
export function silentSegments(scene: Scene, { lane, segments }: Row): readonly Segment[] {
  if (lane.segments.length === segments.length) return ALL_PERFORMED;
  const performed = new Set(segments.map((s) => s.id));
  return lane.segments.filter((id) => !performed.has(id)).map((id) => defined(scene.segments[id]));
}

/** The pixels of the content that are in sight. */
type VerticalSight = Pick<Sight, 'top' | 'bottom'>;

/** Whether some of a row is in sight. */
export const isInSight = (row: Row, { top, bottom }: VerticalSight): boolean =>
  row.top + row.height >= top && row.top <= bottom;

/** The rows in sight, one above, and one below for Tab to go on to. */
export function rowsInSight(rows: readonly Row[], sight: VerticalSight): readonly Row[] {
  const seen = rows.flatMap((r, i) => (isInSight(r, sight) ? [i] : []));
  return rows.slice(Math.max(0, (seen[0] ?? 0) - 1), (seen.at(-1) ?? -1) + 2);
}

/** Which place among the body lanes one has that is dragged `down` pixels, counted from 0, and how many there are. */
export function placeAfter(row: Row, rows: readonly Row[], down: number): { to: number; of: number } {
  const bodies = rows.filter((r) => r.lane.kind === 'body');
  const middle = row.top + row.height / 2 + down;
  const to = bodies.filter((r) => r.lane.id !== row.lane.id && r.top + r.height / 2 < middle).length;
  return { to, of: bodies.length };
}
