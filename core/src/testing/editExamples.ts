import { expect } from '@jest/globals';
import { PLAIN_LIMITS } from '../scene/choice';
import { PLAIN_CHARACTER } from '../scene/character';
import type { LayerLane } from '../scene/lane';
import type { Scene } from '../scene/scene';
import { PLAIN_MARKER } from '../scene/marker';
import { segmentOf } from './scenes';
import { spans, turn, two, walk } from './arranging';
import type { Edit } from '../edit/edit';
import type { Example } from './example';
import { ALTERNATE_EXAMPLES, alternated } from './alternateExamples';
import { CAMERA_EXAMPLES, filmed } from './cameraExamples';
import { LAYER_EXAMPLES, nodding } from './layerExamples';
import { SOUND_EXAMPLES, sounding } from './soundExamples';
import { STAGING_EXAMPLES, crate, held } from './stagingExamples';

// The scene: a[0,90) b[82,122) c[114,174) on lane l; e, f on lane m of the Visitor; g on its layer y.
export const EXAMPLES: { readonly [T in Edit['type']]: Example<T> } = {
  'rename scene': {
    edit: { name: ' Night ' },
    name: 'name of the scene',
    does: (s) => s.name,
    gives: 'Night',
  },
  'add character': {
    edit: { character: { ...PLAIN_CHARACTER, id: 'x', name: 'Dog', body: 'body' }, lane: 'xl' },
    name: 'addition of Dog',
    does: (s) => [s.characterOrder, s.laneOrder, s.lanes.xl?.segments],
    gives: [['c', 'd', 'x'], ['l', 'm', 'y', 'xl'], []],
  },
  'remove character': {
    edit: { character: 'd' },
    name: 'removal of Visitor',
    does: (s) => [s.characterOrder, s.laneOrder, Object.keys(s.segments)],
    gives: [['c'], ['l'], ['a', 'b', 'c']],
  },
  'start character': {
    edit: { character: 'c', start: { x: 1, z: 2, heading: 90 } },
    name: 'start of Keeper',
    does: (s) => s.characters.c?.start,
    gives: { x: 1, z: 2, heading: 90 },
  },
  'foot-lock': {
    edit: { character: 'c', on: true },
    name: 'foot lock of Keeper',
    does: (s) => s.characters.c?.footLock,
    gives: true,
  },
  'change character': {
    edit: { character: 'c', values: { size: 1.5, name: 'Lamp keeper' } },
    name: 'size and name of Keeper',
    does: (s) => [s.characters.c?.size, s.characters.c?.name],
    gives: [1.5, 'Lamp keeper'],
  },
  'order character': {
    edit: { character: 'd', to: 0 },
    name: 'order of Visitor',
    does: (s) => [s.characterOrder, s.laneOrder],
    gives: [
      ['d', 'c'],
      ['m', 'y', 'l'],
    ],
  },
  'lead-in': {
    edit: { character: 'c', frames: 10 },
    name: 'lead-in of Keeper',
    does: (s) => [s.characters.c?.leadIn, spans(s), s.segments.e?.start],
    gives: [10, 'a[10,100) b[92,132) c[124,184)', 30],
  },
  'change lane': {
    edit: { lane: 'm', values: { muted: true } },
    name: 'mute of Visitor',
    does: (s) => s.lanes.m?.muted,
    gives: true,
  },
  ...LAYER_EXAMPLES,
  steps: {
    edit: { clip: 'walk', joint: 'leftFoot', spans: [[3, 9]] },
    name: 'steps of leftFoot',
    does: (s) => s.steps,
    gives: { walk: { leftFoot: [[3, 9]] } },
  },
  place: {
    edit: { lane: 'l', at: 'end', overlap: 5, segment: segmentOf(walk, { id: 'n' }) },
    name: 'addition of walk',
    does: spans,
    gives: 'a[0,90) b[82,122) c[114,174) n[169,200)',
  },
  move: {
    edit: { segment: 'c', start: 300 },
    name: 'move of walk',
    does: spans,
    gives: 'a[0,90) b[82,122) c[300,360)',
  },
  trim: {
    edit: { segment: 'b', edge: 'end', frame: 118 },
    name: 'trim of turn',
    does: spans,
    gives: 'a[0,90) b[82,118) c[114,174)',
  },
  change: {
    edit: { segment: 'a', values: { repeat: 2 } },
    name: 'repeats of walk',
    does: spans,
    gives: 'a[0,60) b[52,92) c[84,144)',
  },
  seam: {
    edit: { segment: 'b', values: { fit: 'hips' }, join: { kind: 'settle', frames: 6 } },
    name: 'fit before turn',
    does: (s) => s.segments.b?.seam,
    gives: expect.objectContaining({ fit: 'hips', facing: true, kind: 'settle', frames: 6 }),
  },
  join: {
    edit: {
      segment: 'b',
      before: 80,
      own: 36,
      overlap: 12,
      values: { fit: 'whole body', auto: true },
      join: { kind: 'step', footfalls: {}, landings: {} },
    },
    name: 'join before turn',
    does: (s) => [spans(s), s.segments.b?.in, s.segments.b?.seam.kind, s.segments.b?.seam.auto],
    gives: ['a[0,80) b[68,104) c[96,156)', 14, 'step', true],
  },
  limits: {
    edit: { limits: { ...PLAIN_LIMITS, within: 0.5, steps: false } },
    name: 'limits of choices',
    does: (s) => [s.choice.within, s.choice.steps, s.choice.bridges],
    gives: [0.5, false, true],
  },
  judge: {
    edit: { shotSize: 'wide' },
    name: 'thresholds for wide',
    does: (s) => s.shotSize,
    gives: 'wide',
  },
  ignore: {
    edit: { item: 'seam:b', reason: 'out of sight' },
    name: 'measure ignored',
    does: (s) => s.ignored,
    gives: { 'seam:b': 'out of sight' },
  },
  overlap: {
    edit: { segment: 'b', frames: 4 },
    name: 'overlap before turn',
    does: spans,
    gives: 'a[0,90) b[86,126) c[118,178)',
  },
  match: {
    edit: { segment: 'c', out: 40, in: 0 },
    name: 'matching frames before walk',
    does: (s) => [s.segments.b?.out, spans(s)],
    gives: [44, 'a[0,90) b[82,116) c[108,168)'],
  },
  remove: {
    edit: { segment: 'b', close: false },
    name: 'removal of turn',
    does: spans,
    gives: 'a[0,90) c[114,174)',
  },
  duplicate: {
    edit: { segment: 'a', id: 'n' },
    name: 'duplicate of walk',
    does: spans,
    gives: 'a[0,90) n[90,180) b[172,212) c[204,264)',
  },
  cut: {
    edit: { segment: 'b', frame: 100, id: 'n' },
    name: 'cut of turn',
    does: spans,
    gives: 'a[0,90) b[82,100) n[100,122) c[114,174)',
  },
  freeze: {
    edit: { segment: 'b', frame: 99, frames: 20, id: 'n' },
    name: 'freeze of turn',
    does: spans,
    gives: 'a[0,90) b[82,120) n[120,142) c[134,194)',
  },
  slip: {
    edit: { segment: 'b', samples: 4 },
    name: 'slip of turn',
    does: (s) => [s.segments.b?.in, s.segments.b?.out, spans(s)],
    gives: [14, 54, 'a[0,90) b[82,122) c[114,174)'],
  },
  stretch: {
    edit: { segment: 'c', edge: 'end', frame: 204 },
    name: 'stretch of walk',
    does: (s) => [s.segments.c?.length, spans(s)],
    gives: [90, 'a[0,90) b[82,122) c[114,204)'],
  },
  repeat: {
    edit: { segment: 'c', edge: 'end', frame: 204 },
    name: 'repeats of walk',
    does: (s) => [s.segments.c?.repeat, spans(s)],
    gives: [3, 'a[0,90) b[82,122) c[114,204)'],
  },
  replace: {
    edit: { segment: 'b', by: { clip: 'slow', name: 'slow', loop: false } },
    name: 'replacement of turn',
    does: (s) => [s.segments.b?.clip, spans(s)],
    gives: ['slow', 'a[0,90) b[82,122) c[114,174)'],
  },
  'shift seam': {
    edit: { segment: 'b', frames: 3 },
    name: 'move of the seam before turn',
    does: spans,
    gives: 'a[0,93) b[85,122) c[114,174)',
  },
  'widen seam': {
    edit: { segment: 'b', overlap: 12 },
    name: 'overlap before turn',
    does: spans,
    gives: 'a[0,92) b[80,122) c[114,174)',
  },
  swap: {
    edit: { segment: 'a' },
    name: 'swap of walk and the next',
    does: spans,
    gives: 'b[0,40) a[32,122) c[114,174)',
  },
  reorder: {
    edit: { segment: 'c', lane: 'l', before: 'a' },
    name: 'order of walk',
    does: (s) => s.lanes.l?.segments,
    gives: ['c', 'a', 'b'],
  },
  switch: {
    edit: { segment: 'b', off: true },
    name: 'disabling of turn',
    does: spans,
    gives: 'a[0,90) c[82,142)',
  },
  'move several': {
    edit: { segments: ['a', 'b', 'c'], frames: 7 },
    name: 'move of 3 segments',
    does: spans,
    gives: 'a[7,97) b[89,129) c[121,181)',
  },
  paste: {
    edit: { lane: 'l', at: 200, rate: 60, segments: [segmentOf(turn, { id: 'n', length: 60 })] },
    name: 'paste of turn',
    does: spans,
    gives: 'a[0,90) b[82,122) c[114,174) n[200,230)',
  },
  group: {
    edit: { id: 'G', name: 'round', segments: ['a', 'e'] },
    name: 'group round',
    does: (s) => s.groups.G?.members,
    gives: ['a', 'e'],
  },
  ungroup: {
    edit: { group: 'K' },
    name: 'ungrouping of kept',
    does: (s) => Object.keys(s.groups),
    gives: [],
  },
  'change group': {
    edit: { group: 'K', values: { muted: true } },
    name: 'muted of the group kept',
    does: (s) => s.groups.K?.muted,
    gives: true,
  },
  marker: {
    edit: { marker: { ...PLAIN_MARKER, id: 'p', name: '', frame: 12.4 } },
    name: 'marker ',
    does: (s) => s.markers,
    gives: [
      { id: 'p', name: 'frame 12', frame: 12, end: null, impact: [] },
      { id: 'q', name: 'wave', frame: 40, end: null, impact: [] },
    ],
  },
  'remove marker': {
    edit: { marker: 'q' },
    name: 'removal of the marker wave',
    does: (s) => s.markers,
    gives: [],
  },
  range: {
    edit: { range: { from: 9.6, to: 3 } },
    name: 'play range',
    does: (s) => s.range,
    gives: { from: 10, to: 11 },
  },
  rate: {
    edit: { rate: 60, keep: 'seconds' },
    name: 'rate of 60',
    does: (s) => [s.rate, spans(s)],
    gives: [60, 'a[0,180) b[164,244) c[228,348)'],
  },
  ...STAGING_EXAMPLES,
  ...CAMERA_EXAMPLES,
  ...SOUND_EXAMPLES,
  ...ALTERNATE_EXAMPLES,
  several: {
    edit: {
      label: 'a walk round',
      edits: [
        { type: 'move', segment: 'c', start: 300 },
        { type: 'slip', segment: 'b', samples: 1 },
      ],
    },
    name: 'a walk round',
    does: (s) => [spans(s), s.segments.b?.in],
    gives: ['a[0,90) b[82,122) c[300,360)', 11],
  },
};

/** The scene that the examples change, with what they name. */
export const known: Scene = {
  ...two,
  characters: { ...two.characters, d: { ...two.characters.d!, prop: crate } },
  lanes: { ...two.lanes, y: { ...(two.lanes.y as LayerLane), ...nodding } },
  tethers: { t: held },
  ...filmed,
  ...sounding,
  ...alternated,
  groups: { K: { id: 'K', name: 'kept', members: ['b', 'f'], folded: false, muted: false } },
  markers: [{ ...PLAIN_MARKER, id: 'q', name: 'wave', frame: 40 }],
  links: {
    k: {
      id: 'k',
      follower: { of: 'segment', id: 'f', at: 'start' },
      leader: { of: 'marker', id: 'q', at: 'start' },
      offset: 30,
    },
  },
};
