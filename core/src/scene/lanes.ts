import { isDraft } from 'immer';
import type { BodyLane, LayerLane, Scene } from './scene';

/** The lanes of one character. */
interface OwnLanes {
  readonly body: BodyLane | undefined;
  /** Bottom first. */
  readonly layers: readonly LayerLane[];
}

const NO_LANES: OwnLanes = { body: undefined, layers: [] };

/** What has been sorted, by the lanes and their order: a long scene is asked for them with every edit. */
const sorted = new WeakMap<object, { readonly order: object; readonly own: ReadonlyMap<string, OwnLanes> }>();

function lanesOf(scene: Scene, character: string): OwnLanes {
  // A draft changes under its lanes.
  if (isDraft(scene) || isDraft(scene.lanes)) return sortLanes(scene).get(character) ?? NO_LANES;
  let made = sorted.get(scene.lanes);
  if (made?.order !== scene.laneOrder)
    sorted.set(scene.lanes, (made = { order: scene.laneOrder, own: sortLanes(scene) }));
  return made.own.get(character) ?? NO_LANES;
}

function sortLanes(scene: Scene): Map<string, OwnLanes> {
  const own = new Map<string, { body: BodyLane | undefined; layers: LayerLane[] }>();
  const of = (id: string): { body: BodyLane | undefined; layers: LayerLane[] } => {
    const known = own.get(id) ?? { body: undefined, layers: [] };
    own.set(id, known);
    return known;
  };
  for (const lane of Object.values(scene.lanes)) if (lane.kind === 'body') of(lane.character).body ??= lane;
  for (const id of scene.laneOrder) {
    const lane = scene.lanes[id];
    if (lane?.kind === 'layer') of(lane.character).layers.push(lane);
  }
  return own;
}

/** The body lane of a character. */
export const bodyLane = (scene: Scene, character: string): BodyLane | undefined =>
  lanesOf(scene, character).body;

/** The layers of a character, bottom first. */
export const layerLanes = (scene: Scene, character: string): LayerLane[] => [
  ...lanesOf(scene, character).layers,
];

/** The lanes that are left out of the performance: muted ones, and those without solo while any lane has it. */
export function mutedLanes(scene: Scene): ReadonlySet<string> {
  const lanes = Object.values(scene.lanes);
  const soloed = lanes.filter((l) => l.solo);
  const silent = new Set(lanes.filter((l) => l.muted).map((l) => l.id));
  if (soloed.length === 0) return silent;
  const needed = new Set(soloed.map((l) => l.character));
  for (const lane of lanes) {
    const carries = lane.kind === 'body' && needed.has(lane.character);
    if (!lane.solo && !carries) silent.add(lane.id);
  }
  return silent;
}
