import type { Scene } from '../../scene/scene';
import { keyFrames } from '../../layers/keyLists';
import { delaySegment } from '../delay';
import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';
import { moveKeysOf } from '../links';
import type { SceneEditor } from '../sceneEditor';
import { snapshot } from '../snapshot';

/**
 * Has all that begins from a frame on begin so many frames later: of some characters what their lanes and tethers have, and markers.
 * What plays at that frame goes on until then.
 */
export interface Wait {
  readonly type: 'wait';
  readonly from: number;
  readonly frames: number;
  readonly characters: readonly string[];
  readonly markers: boolean;
}

export const wait = defineEdit<Wait>({
  type: 'wait',
  schema: { from: rule.number, frames: rule.number, characters: rule.ids, markers: rule.flag },
  apply: (editor, { from, frames, characters, markers }) => {
    const { scene } = editor;
    for (const id of characters) {
      lookup(scene.characters, id, 'character');
      for (const lane of Object.values(scene.lanes))
        if (lane.character === id) delayLane(editor, lane.id, from, frames);
      for (const tether of Object.values(scene.tethers)) {
        if (tether.child !== id || tether.start < from) continue;
        tether.start += frames;
        if (tether.end !== null) tether.end += frames;
      }
    }
    if (!markers) return;
    scene.markers = scene.markers.map((m) =>
      m.frame < from ? m : { ...m, frame: m.frame + frames, end: m.end === null ? null : m.end + frames },
    );
  },
  describe: ({ frames }) => `wait of ${frames} ${frames === 1 ? 'frame' : 'frames'}`,
});

function delayLane(editor: SceneEditor, id: string, from: number, frames: number): void {
  const lane = lookup(editor.scene.lanes, id, 'lane');
  const first = editor.layOut(lane).find((p) => p.start >= from);
  if (first) delaySegment(editor, first.segment.id, frames);
  if (lane.kind !== 'layer') return;
  const layer = snapshot<Scene>(editor.scene).lanes[id];
  const later = layer?.kind === 'layer' ? keyFrames(layer).filter((f) => f >= from) : [];
  if (later.length > 0) moveKeysOf(editor.scene, id, later, frames);
  lane.weight = lane.weight.map(([f, w]) => [f >= from ? f + frames : f, w]);
  const { span } = lane;
  if (!span) return;
  if (span.start >= from) span.start += frames;
  if (span.end !== null && span.end >= from) span.end += frames;
}
