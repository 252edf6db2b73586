import type { Moment } from '../scene/link';
import type { Scene } from '../scene/scene';
import { layerName } from './defineEdit';

/** What something that can be linked is called. */
export const momentName = (scene: Scene, { of, id }: Pick<Moment, 'of' | 'id'>): string =>
  (of === 'segment'
    ? scene.segments[id]?.name
    : of === 'tether'
      ? scene.tethers[id]?.name
      : of === 'marker'
        ? scene.markers.find((m) => m.id === id)?.name
        : `keys of ${layerName(scene, id)}`) ?? 'something';
