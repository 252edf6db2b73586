import type { Draft } from 'immer';
import type { LayerLane } from '../scene/lane';

/** The lists of keys of a layer, each changed; those that come out empty are left out. */
export function changeKeys(
  layer: Draft<LayerLane>,
  change: <K extends { frame: number }>(keys: readonly K[]) => K[],
): void {
  const lists = <K extends { frame: number }>(record: Record<string, K[] | undefined>): void => {
    for (const [name, keys] of Object.entries(record)) {
      const next = change(keys ?? []);
      if (next.length > 0) record[name] = next;
      else delete record[name];
    }
  };
  lists(layer.keys);
  lists(layer.rootKeys);
  lists(layer.dialKeys);
}
