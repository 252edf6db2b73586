import type { Draft } from 'immer';
import { current } from 'immer';
import { InputError } from '../math/errors';
import { framesPerSecond, parseRate } from '../math/rate';
import type { Character, FrameSpan, LaneState, Marker, Scene, Segment } from '../scene/scene';
import { MAX_SPEED } from '../scene/schema';
import { bodyLane } from '../scene/lanes';
import { lookup } from './lookup';
import type { Placed } from '../timeline/lane';
import { scaleSegment } from './clipboard';
import type { LaneEditor } from './laneEditor';
import type { Stretched } from '../timeline/freeFrames';
import { maxOverlap } from '../timeline/freeFrames';

/** What of a character can be set. */
export type CharacterValues = Partial<Omit<Character, 'id' | 'body' | 'leadIn'>>;

/** Sets values of a character. */
export function changeCharacter(draft: Draft<Scene>, id: string, values: CharacterValues): void {
  const character = lookup(draft.characters, id, 'character');
  const { name } = character;
  Object.assign(character, values);
  character.name = character.name.trim().slice(0, 200) || name;
  if (!(character.size >= 0.01 && character.size <= 100)) {
    throw new InputError('edit', `${character.name} cannot be ${character.size} times its size.`, {
      hint: 'Choose 0.01 to 100.',
    });
  }
}

/** Sets how a lane is treated. */
export function changeLane(draft: Draft<Scene>, id: string, values: Partial<LaneState>): void {
  Object.assign(lookup(draft.lanes, id, 'lane'), values);
}

/** Brings a character, with its lanes, to another place in the order. */
export function orderCharacter(draft: Draft<Scene>, id: string, to: number): void {
  lookup(draft.characters, id, 'character');
  const others = draft.characterOrder.filter((c) => c !== id);
  others.splice(Math.min(Math.max(0, to), others.length), 0, id);
  draft.characterOrder = others;
  draft.laneOrder = others.flatMap((c) => draft.laneOrder.filter((l) => draft.lanes[l]!.character === c));
}

/** Puts a marker, in place of the one with its id. */
export function setMarker(draft: Draft<Scene>, marker: Marker): void {
  const frame = Math.max(0, Math.round(marker.frame));
  const end = marker.end === null ? null : Math.max(frame + 1, Math.round(marker.end));
  const name = marker.name.trim().slice(0, 200) || `frame ${frame}`;
  const others = draft.markers.filter((m) => m.id !== marker.id);
  draft.markers = [...others, { ...marker, name, frame, end }].sort((a, b) => a.frame - b.frame);
}

/** Sets the frames that are played; null for the whole piece. */
export function setRange(draft: Draft<Scene>, range: FrameSpan | null): void {
  if (!range) draft.range = null;
  else {
    const from = Math.max(0, Math.round(range.from));
    draft.range = { from, to: Math.max(from + 1, Math.round(range.to)) };
  }
}

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

/**
 * Lets a character ease out of its rest pose for so many frames before its first segment. Where they would begin before
 * frame 0, everything in the scene goes on by as many, so that all characters stay together.
 */
export function setLeadIn(editor: LaneEditor, id: string, frames: number): void {
  const character = lookup(editor.scene.characters, id, 'character');
  character.leadIn = Math.min(100_000, Math.max(0, Math.round(frames)));
  const lane = bodyLane(editor.scene as Scene, id);
  const first = lane && editor.layOut(lane)[0];
  if (first && first.start < character.leadIn) shiftAll(editor.scene, character.leadIn - first.start);
}

/**
 * Sets the scene's rate. Segments keep their seconds, and fill other numbers of frames; or they keep their frames, and
 * play faster or slower. Cuts stay cuts, seams and gaps stay what they are.
 */
export function setRate(editor: LaneEditor, rate: Scene['rate'], keep: 'seconds' | 'frames'): void {
  const { scene } = editor;
  const before = framesPerSecond(parseRate(scene.rate));
  const factor = framesPerSecond(parseRate(rate)) / before;
  if (factor === 1) {
    scene.rate = rate;
    return;
  }
  const laidOut = Object.values(scene.lanes).map((lane) => ({ lane, placed: editor.layOut(lane) }));
  scene.rate = rate;
  if (keep === 'frames') {
    for (const segment of Object.values(scene.segments))
      if (segment.length === null) segment.speed = Math.min(MAX_SPEED, segment.speed * factor);
    return;
  }
  const scaled = (frames: number): number => Math.round(frames * factor);
  for (const segment of Object.values(scene.segments)) {
    Object.assign(segment, scaleSegment(current(segment) as Segment, factor), {
      start: scaled(segment.start),
    });
  }
  for (const { lane, placed } of laidOut) {
    relay(editor, placed, factor);
    // Those that are switched off stay in their order.
    lane.segments = lane.segments
      .map((id, i) => ({ id, i, start: scene.segments[id]!.start }))
      .sort((a, b) => a.start - b.start || a.i - b.i)
      .map((s) => s.id);
  }
  for (const character of Object.values(scene.characters)) character.leadIn = scaled(character.leadIn);
  scene.markers = scene.markers.map((m) => {
    const frame = scaled(m.frame);
    return { ...m, frame, end: m.end === null ? null : Math.max(frame + 1, scaled(m.end)) };
  });
  if (scene.range) setRange(scene, { from: scaled(scene.range.from), to: scaled(scene.range.to) });
  for (const lane of Object.values(scene.lanes)) if (lane.kind === 'layer') scaleLayer(lane, factor);
}

/** Puts the segments of a lane where they were in seconds, as near as their new lengths let seams stay what they were. */
function relay(editor: LaneEditor, placed: readonly Placed[], factor: number): void {
  let before: Stretched | null = null;
  for (const { segment, start, overlap, gap } of placed) {
    const own = editor.scene.segments[segment.id]!;
    const frames = editor.framesOf(own);
    let k = 0;
    if (before) {
      const wanted = before.end - Math.round(start * factor);
      const most = maxOverlap(before, frames);
      if (overlap > 0) k = Math.min(Math.max(1, wanted), most);
      else if (gap > 0) k = Math.min(-1, wanted);
      own.start = before.end - k;
    }
    before = { end: own.start + frames, length: frames, covered: Math.max(0, k) };
  }
}

function scaleLayer(lane: Draft<Extract<Scene['lanes'][string], { kind: 'layer' }>>, factor: number): void {
  lane.weight = lane.weight.map(([f, w]) => [f * factor, w]);
  for (const [joint, keys] of Object.entries(lane.keys))
    lane.keys[joint] = keys
      .map((key) => ({
        ...key,
        frame: Math.round(key.frame * factor),
        tangent: key.tangent && (key.tangent.map((v) => v / factor) as [number, number, number]),
      }))
      .filter((key, i, all) => key.frame !== all[i + 1]?.frame);
}
