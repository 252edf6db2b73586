import { characterName, defineEdit, rule } from '../defineEdit';
import { looksAt } from '../../scene/look';
import { lookup } from '../lookup';

/** Removes a character with its lanes and all that is on them; nobody looks at it, meets it, holds it or is held by it any more, and no
 * camera goes along with it, and no lane makes its steps heard. */
export interface RemoveCharacter {
  readonly type: 'remove character';
  readonly character: string;
}

export const removeCharacter = defineEdit<RemoveCharacter>({
  type: 'remove character',
  schema: { character: rule.id },
  apply: ({ scene }, { character }) => {
    lookup(scene.characters, character, 'character');
    const looking = [...Object.values(scene.characters), ...Object.values(scene.segments)];
    for (const one of looking) if (looksAt(one.look, character)) one.look = null;
    for (const lane of Object.values(scene.lanes)) {
      if (lane.kind === 'layer' && looksAt(lane.look, character)) lane.look = null;
      if (lane.character !== character) continue;
      for (const segment of lane.segments) delete scene.segments[segment];
      delete scene.lanes[lane.id];
    }
    for (const segment of Object.values(scene.segments))
      if (segment.meet?.character === character) segment.meet = null;
    for (const marker of scene.markers)
      if (marker.impact.includes(character)) marker.impact = marker.impact.filter((c) => c !== character);
    for (const { id, child, parent } of Object.values(scene.tethers))
      if (child === character || parent === character) delete scene.tethers[id];
    for (const camera of Object.values(scene.cameras))
      for (const field of ['follow', 'look', 'keep'] as const)
        if (camera[field]?.character === character) camera[field] = null;
    for (const lane of Object.values(scene.soundLanes))
      if (lane.steps?.character === character) lane.steps = null;
    scene.laneOrder = scene.laneOrder.filter((l) => scene.lanes[l]);
    delete scene.characters[character];
    scene.characterOrder = scene.characterOrder.filter((c) => c !== character);
  },
  describe: ({ character }, scene) => `removal of ${characterName(scene, character)}`,
});
