import type { BodyLane, LayerLane } from './lane';
import type { Scene } from './scene';

/** The body lane of a character. */
export const bodyLane = (scene: Scene, character: string): BodyLane | undefined =>
  Object.values(scene.lanes).find(
    (lane): lane is BodyLane => lane.kind === 'body' && lane.character === character,
  );

/** The layers of a character, bottom first. */
export const layerLanes = (scene: Scene, character: string): LayerLane[] =>
  scene.laneOrder
    .map((id) => scene.lanes[id])
    .filter((lane): lane is LayerLane => lane?.kind === 'layer' && lane.character === character);

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
