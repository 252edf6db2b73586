import type { Draft } from 'immer';
import { bodyLane } from '../../scene/lanes';
import type { Scene } from '../../scene/scene';
import { characterName, defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/**
 * Lets a character ease out of its rest pose for so many frames before its first segment. Where they would begin before
 * frame 0, everything in the scene goes on by as many, so that all characters stay together.
 */
export interface LeadIn {
  readonly type: 'lead-in';
  readonly character: string;
  readonly frames: number;
}

export const leadIn = defineEdit<LeadIn>({
  type: 'lead-in',
  schema: { character: rule.id, frames: rule.number },
  passesLocks: true,
  apply: (editor, { character: id, frames }) => {
    const character = lookup(editor.scene.characters, id, 'character');
    character.leadIn = Math.min(100_000, Math.max(0, Math.round(frames)));
    const lane = bodyLane(editor.scene, id);
    const first = lane && editor.layOut(lane)[0];
    if (first && first.start < character.leadIn) shiftAll(editor.scene, character.leadIn - first.start);
  },
  describe: ({ character }, scene) => `lead-in of ${characterName(scene, character)}`,
});

/** Moves everything in a scene on by so many frames. */
function shiftAll(draft: Draft<Scene>, by: number): void {
  for (const segment of Object.values(draft.segments)) segment.start += by;
  for (const marker of draft.markers) {
    marker.frame += by;
    if (marker.end !== null) marker.end += by;
  }
  if (draft.range) draft.range = { from: draft.range.from + by, to: draft.range.to + by };
  for (const lane of Object.values(draft.lanes)) {
    if (lane.kind !== 'layer') continue;
    lane.weight = lane.weight.map(([f, w]) => [f + by, w]);
    for (const keys of Object.values(lane.keys)) for (const key of keys) key.frame += by;
  }
}
