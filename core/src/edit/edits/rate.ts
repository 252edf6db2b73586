import { defined } from '../../math/defined';
import { castDraft } from 'immer';
import Joi from 'joi';
import { framesPerSecond, parseRate } from '../../math/rate';
import { scaledFields } from '../../scene/fields';
import type { Camera } from '../../scene/camera';
import { scaledCamera } from '../../scene/camera';
import type { Character } from '../../scene/character';
import { CHARACTER_FIELDS } from '../../scene/character';
import type { LayerLane } from '../../scene/lane';
import { LANE_KINDS } from '../../scene/lane';
import { rate as rateRule } from '../../scene/rules';
import type { Line } from '../../scene/line';
import { scaledLine } from '../../scene/line';
import type { Link } from '../../scene/link';
import { scaledLink } from '../../scene/link';
import type { Scene } from '../../scene/scene';
import type { Segment } from '../../scene/segment';
import { MAX_SPEED, scaleSegment } from '../../scene/segment';
import type { Shot } from '../../scene/shot';
import { scaledShot } from '../../scene/shot';
import type { Sound } from '../../scene/sound';
import { SOUND_FIELDS } from '../../scene/sound';
import type { Tether } from '../../scene/tether';
import { scaledTether } from '../../scene/tether';
import type { Placed } from '../../timeline/lane';
import { defineEdit } from '../defineEdit';
import { spreadShots } from '../shots';
import { snapshot } from '../snapshot';
import type { SceneEditor } from '../sceneEditor';
import { setRange } from './range';

/**
 * Sets the scene's rate. Segments keep their seconds, and fill other numbers of frames; or they keep their frames, and
 * play faster or slower. Cuts stay cuts, seams and gaps stay what they are.
 */
export interface SetRate {
  readonly type: 'rate';
  readonly rate: Scene['rate'];
  readonly keep: 'seconds' | 'frames';
}

export const rate = defineEdit<SetRate>({
  type: 'rate',
  schema: { rate: rateRule.required(), keep: Joi.valid('seconds', 'frames').required() },
  passesLocks: true,
  apply: (editor, { rate, keep }) => {
    const { scene } = editor;
    const factor = framesPerSecond(parseRate(rate)) / framesPerSecond(parseRate(scene.rate));
    if (factor === 1) scene.rate = rate;
    else if (keep === 'seconds') keepSeconds(editor, rate, factor);
    else {
      scene.rate = rate;
      for (const segment of Object.values(scene.segments))
        if (segment.length === null) segment.speed = Math.min(MAX_SPEED, segment.speed * factor);
    }
  },
  describe: ({ rate }) => `rate of ${rate}`,
});

function keepSeconds(editor: SceneEditor, rate: Scene['rate'], factor: number): void {
  const { scene } = editor;
  const laidOut = Object.values(scene.lanes).map((lane) => ({ lane, placed: editor.layOut(lane) }));
  scene.rate = rate;
  const scaled = (frames: number): number => Math.round(frames * factor);
  for (const segment of Object.values(scene.segments)) {
    const start = scaled(segment.start);
    Object.assign(segment, scaleSegment(snapshot<Segment>(segment), factor), { start });
  }
  for (const { lane, placed } of laidOut) {
    relay(editor, placed, scaled);
    // Those that are switched off stay in their order.
    lane.segments = lane.segments
      .map((id, i) => ({ id, i, start: defined(scene.segments[id]).start }))
      .sort((a, b) => a.start - b.start || a.i - b.i)
      .map((s) => s.id);
  }
  for (const character of Object.values(scene.characters))
    Object.assign(character, scaledFields(snapshot<Character>(character), CHARACTER_FIELDS, factor));
  for (const [id, tether] of Object.entries(scene.tethers))
    scene.tethers[id] = castDraft(scaledTether(snapshot<Tether>(tether), factor));
  for (const [id, link] of Object.entries(scene.links))
    scene.links[id] = castDraft(scaledLink(snapshot<Link>(link), factor));
  for (const [id, camera] of Object.entries(scene.cameras))
    scene.cameras[id] = castDraft(scaledCamera(snapshot<Camera>(camera), factor));
  for (const [id, shot] of Object.entries(scene.shots))
    scene.shots[id] = castDraft(scaledShot(snapshot<Shot>(shot), factor));
  spreadShots(scene.shots);
  for (const sound of Object.values(scene.sounds))
    Object.assign(sound, castDraft(scaledFields(snapshot<Sound>(sound), SOUND_FIELDS, factor)));
  for (const [id, line] of Object.entries(scene.lines))
    scene.lines[id] = castDraft(scaledLine(snapshot<Line>(line), factor));
  scene.markers = scene.markers.map((m) => {
    const frame = scaled(m.frame);
    return { ...m, frame, end: m.end === null ? null : Math.max(frame + 1, scaled(m.end)) };
  });
  if (scene.range) setRange(scene, { from: scaled(scene.range.from), to: scaled(scene.range.to) });
  for (const lane of Object.values(scene.lanes))
    if (lane.kind === 'layer')
      Object.assign(lane, castDraft(scaledFields(snapshot<LayerLane>(lane), LANE_KINDS.layer, factor)));
}

/** Puts the segments of a lane where they were in seconds, as near as their new lengths let seams stay what they were. */
function relay(editor: SceneEditor, placed: readonly Placed[], scaled: (frames: number) => number): void {
  const row = placed.map(({ segment, start, overlap, gap }) => ({
    id: segment.id,
    frames: editor.framesOf(defined(editor.scene.segments[segment.id])),
    asked: (end: number): number => {
      const wanted = end - scaled(start);
      if (overlap > 0) return Math.max(1, wanted);
      return gap > 0 ? Math.min(-1, wanted) : 0;
    },
  }));
  const first = row[0];
  if (first) editor.chain(undefined, defined(editor.scene.segments[first.id]).start, row);
}
