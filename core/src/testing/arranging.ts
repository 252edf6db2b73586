import fc from 'fast-check';
import { InputError } from '../math/errors';
import type { Scene } from '../scene/scene';
import type { Moment } from '../scene/link';
import type { Segment } from '../scene/segment';
import { PLAIN_CHARACTER } from '../scene/character';
import { PLAIN_LANE, PLAIN_LAYER } from '../scene/lane';
import { parseScene } from '../scene/schema';
import { describeEdit, applyDifferences } from '../edit/edit';
import type { Edit } from '../edit/edit';
import { applyEdit, edit } from '../edit/edit';
import { layOut } from '../timeline/lane';
import { canStand } from '../timeline/freeFrames';
import { figureClip, strideJoints } from './figure';
import { libraryOf, sceneOf, segmentOf } from './scenes';

export const walk = figureClip(
  31,
  (f) => ({ x: 0, z: (1.3 * f) / 30, turn: 0, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'walk' },
);
export const turn = figureClip(
  60,
  (f) => ({ x: 0.1 * Math.sin(f / 20), z: 0.01 * f, turn: f * 0.03, joints: strideJoints(f / 9) }),
  { id: 'turn' },
);
export const slow = figureClip(40, (f) => ({ x: 0, z: 0.02 * f, turn: 0, joints: strideJoints(f / 7) }), {
  id: 'slow',
  rate: 24,
});
export const library = libraryOf(walk, turn, slow);
export const one = sceneOf([
  segmentOf(walk, { id: 'a', loop: true, repeat: 3 }),
  segmentOf(turn, { id: 'b', start: 82, in: 10, out: 50 }),
  segmentOf(walk, { id: 'c', start: 114, loop: true, repeat: 2 }),
]);
/** Two characters, the second with a gap and a layer. */
export const two: Scene = {
  ...one,
  characters: { ...one.characters, d: { ...PLAIN_CHARACTER, id: 'd', name: 'Visitor', body: 'body' } },
  characterOrder: ['c', 'd'],
  lanes: {
    ...one.lanes,
    m: { ...PLAIN_LANE, id: 'm', kind: 'body', character: 'd', segments: ['e', 'f'] },
    y: { ...PLAIN_LAYER, id: 'y', name: 'wave', character: 'd', segments: ['g'], weight: [[10, 1]] },
  },
  laneOrder: ['l', 'm', 'y'],
  segments: {
    ...one.segments,
    e: segmentOf(turn, { id: 'e', start: 20, out: 40 }),
    f: segmentOf(slow, { id: 'f', start: 70 }),
    g: segmentOf(slow, { id: 'g', start: 5, out: 30 }),
  },
};
/** The spans of a lane's segments, for reading. */
export const spans = (scene: Scene, lane = 'l'): string =>
  layOut(scene, scene.lanes[lane]!, library)
    .map((p) => `${p.segment.id}[${p.start},${p.end})`)
    .join(' ');
export const after = (change: Edit, scene = one): Scene => applyEdit(scene, change, library);
const NEW = ['n1', 'n2', 'n3', 'n4'];
const frame = fc.integer({ min: -50, max: 400 });
const segment = fc.constantFrom('a', 'b', 'c', 'e', 'f', 'g', ...NEW);
const fresh = fc.constantFrom(...NEW);
const lane = fc.constantFrom('l', 'm', 'y');
const someSegments = fc.uniqueArray(segment, { minLength: 1, maxLength: 4 });
const edge = fc.constantFrom('start' as const, 'end' as const);
const is = <T extends string>(type: T): fc.Arbitrary<T> => fc.constant(type);
const newSegment = fresh.map((id): Segment => segmentOf(id < 'n3' ? walk : slow, { id }));
const moment: fc.Arbitrary<Moment> = fc.oneof(
  fc.record({
    of: is('segment'),
    id: segment,
    at: fc.oneof(edge, fc.nat(40)),
  }),
  fc.record({ of: is('marker'), id: fc.constantFrom('p', 'q'), at: is('start') }),
);
export const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.record({ type: is('move'), segment, start: frame, lane }),
  fc.record({ type: is('trim'), segment, edge, frame }),
  fc.record({ type: fc.constantFrom('stretch' as const, 'repeat' as const), segment, edge, frame }),
  fc.record({ type: is('cut'), segment, frame, id: fresh }),
  fc.record({ type: is('freeze'), segment, frame, frames: fc.integer({ min: 1, max: 30 }), id: fresh }),
  fc.record({ type: is('slip'), segment, samples: fc.integer({ min: -30, max: 30 }) }),
  fc.record({
    type: is('replace'),
    segment,
    by: fc.record({ clip: fc.constantFrom('walk', 'turn', 'slow'), name: is('new'), loop: fc.boolean() }),
  }),
  fc.record({ type: is('shift seam'), segment, frames: fc.integer({ min: -40, max: 40 }) }),
  fc.record({ type: is('widen seam'), segment, overlap: fc.integer({ min: 0, max: 40 }) }),
  fc.record({ type: is('overlap'), segment, frames: fc.integer({ min: 0, max: 40 }) }),
  fc.record({ type: is('swap'), segment }),
  fc.record({ type: is('reorder'), segment, lane, before: fc.oneof(segment, fc.constant(null)) }),
  fc.record({ type: is('switch'), segment, off: fc.boolean() }),
  fc.record({ type: is('remove'), segment, close: fc.boolean() }),
  fc.record({ type: is('duplicate'), segment, id: fresh }),
  fc.record({ type: is('place'), lane, at: fc.oneof(fc.nat(300), is('end')), segment: newSegment }),
  fc.record({
    type: is('paste'),
    lane,
    segments: newSegment.map((s) => [s]),
    at: fc.nat(300),
    rate: fc.constantFrom(30, 24),
  }),
  fc.record({
    type: is('move several'),
    segments: someSegments,
    frames: fc.integer({ min: -200, max: 200 }),
  }),
  fc.record({
    type: is('group'),
    id: fc.constantFrom('G', 'H', 'I'),
    name: is('group'),
    segments: someSegments,
  }),
  fc.record({ type: is('ungroup'), group: fc.constantFrom('G', 'H', 'I') }),
  fc.record({
    type: is('change group'),
    group: fc.constantFrom('G', 'H'),
    values: fc.record({ muted: fc.boolean() }),
  }),
  fc.record({
    type: is('change lane'),
    lane,
    values: fc.record({ muted: fc.boolean(), solo: fc.boolean() }),
  }),
  fc.record({ type: is('order character'), character: fc.constantFrom('c', 'd'), to: fc.nat(2) }),
  fc.record({ type: is('lead-in'), character: fc.constantFrom('c', 'd'), frames: fc.nat(60) }),
  fc.record({
    type: is('marker'),
    marker: fc.record({
      id: fc.constantFrom('p', 'q'),
      name: is('mark'),
      frame: fc.nat(300),
      end: fc.constant(null),
      impact: fc.constant([]),
    }),
  }),
  fc.record({
    type: is('link'),
    link: fc.record({
      id: fc.constantFrom('k1', 'k2', 'k3'),
      follower: moment,
      leader: moment,
      offset: fc.integer({ min: -20, max: 60 }),
    }),
  }),
  fc.record({ type: is('remove link'), link: fc.constantFrom('k1', 'k2') }),
  fc.record({
    type: is('wait'),
    from: fc.nat(120),
    frames: fc.integer({ min: 1, max: 30 }),
    characters: fc.constantFrom(['c'], ['d'], ['c', 'd']),
    markers: fc.boolean(),
  }),
  fc.record({
    type: is('rate'),
    rate: fc.constantFrom(24, 25, 30, 60),
    keep: fc.constantFrom('seconds' as const, 'frames' as const),
  }),
  fc.record({
    type: is('change'),
    segment,
    values: fc.oneof(
      fc.record({ repeat: fc.constantFrom(1, 2, 2.5) }),
      fc.record({ reverse: fc.boolean(), mirror: fc.boolean() }),
      fc.record({ hold: fc.record({ start: fc.nat(10), end: fc.nat(10) }) }),
      fc.record({ length: fc.integer({ min: 1, max: 90 }) }),
      fc.record({ loop: fc.boolean(), lift: fc.constantFrom(0, 0.1) }),
    ),
  }),
);

const allSpans = (scene: Scene): string => scene.laneOrder.map((l) => spans(scene, l)).join(' | ');

/** What is wrong with a scene, null where nothing is. */
function problemOf(scene: Scene): string | null {
  try {
    parseScene(JSON.parse(JSON.stringify(scene)));
  } catch (error) {
    return String(error);
  }
  const wrong = Object.values(scene.lanes).find((l) => !canStand(layOut(scene, l, library)));
  return wrong ? `segments cannot stand so: ${spans(scene, wrong.id)}` : null;
}

/** Carries out what can be; edits that are refused, such as those of what is gone, leave the scene as it is. */
export function carryOut(edits: readonly Edit[]): { scene: Scene; done: ReturnType<typeof edit>[] } {
  let scene = two;
  const done: ReturnType<typeof edit>[] = [];
  for (const e of edits) {
    try {
      const result = edit(scene, e, library);
      if (describeEdit(e, scene).length < 4) throw new Error(`${e.type} has no name.`);
      const problem = problemOf(result.scene);
      if (problem) throw new Error(`${JSON.stringify(e)} of ${allSpans(scene)}: ${problem}`);
      done.push(result);
      scene = result.scene;
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
    }
  }
  return { scene, done };
}

/** Takes back all that was done to the scene `two`, and does it again: the document before, and the one after. */
export function backAndAgain({ scene, done }: ReturnType<typeof carryOut>): { back: Scene; again: Scene } {
  let back = scene;
  for (const d of [...done].reverse()) back = applyDifferences(back, d.inverse);
  let again = two;
  for (const d of done) again = applyDifferences(again, d.patches);
  return { back, again };
}
