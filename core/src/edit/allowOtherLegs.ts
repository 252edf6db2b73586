import type { Edit } from './edit';
import { hasOtherLegs } from '../skeleton/likeLegs';
import type { Scene } from '../scene/scene';
import type { Library } from '../compile/compile';

/** What lets every clip of a scene be performed that was recorded on other legs than its character's; see `otherLegs`. */
export function allowOtherLegs(scene: Scene, library: Library): readonly Edit[] {
  return Object.values(scene.lanes).flatMap((lane) => {
    const body = library.body(scene.characters[lane.character]?.body ?? '');
    return lane.segments.flatMap((id): Edit[] => {
      const segment = scene.segments[id];
      const clip = segment && !segment.otherLegs ? library.clip(segment.clip) : undefined;
      if (!body || !clip || !hasOtherLegs(clip, body)) return [];
      return [{ type: 'change', segment: id, values: { otherLegs: true } }];
    });
  });
}
