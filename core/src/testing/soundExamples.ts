import fc from 'fast-check';
import type { Edit } from '../edit/edit';
import { PLAIN_LINE } from '../scene/line';
import type { Scene } from '../scene/scene';
import type { Sound } from '../scene/sound';
import { PLAIN_SOUND, PLAIN_SOUND_LANE } from '../scene/sound';
import type { Example } from './example';

/** A sound of four seconds with beats at every half second, of which a second and a half is played twice. */
export const shanty: Sound = {
  ...PLAIN_SOUND,
  id: 'shanty',
  name: 'Shanty',
  lane: 'music',
  source: 'abc',
  seconds: 4,
  start: 30,
  in: 0.5,
  out: 2,
  repeat: 2,
  beats: [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5],
};

/** A lane of music, one of the Visitor's steps, and a line. */
export const sounding: Pick<Scene, 'sounds' | 'soundLanes' | 'soundLaneOrder' | 'lines'> = {
  sounds: { shanty },
  soundLanes: {
    music: { ...PLAIN_SOUND_LANE, id: 'music', name: 'Music', gain: -6 },
    feet: {
      ...PLAIN_SOUND_LANE,
      id: 'feet',
      name: 'Steps',
      steps: { character: 'd', surface: 'wood' },
    },
  },
  soundLaneOrder: ['music', 'feet'],
  lines: { hail: { ...PLAIN_LINE, id: 'hail', speaker: 'Keeper', text: 'Come ashore!', start: 10, end: 40 } },
};

type Sounding = Extract<
  Edit['type'],
  | 'change sound'
  | 'line'
  | 'order sound lane'
  | 'remove line'
  | 'remove sound'
  | 'remove sound lane'
  | 'sound'
  | 'sound lane'
>;

/** Examples of edits of sounds and lines. */
export const SOUND_EXAMPLES: { readonly [T in Sounding]: Example<T> } = {
  sound: {
    edit: { sound: { ...shanty, id: 'wind', name: 'Wind', beats: [] } },
    name: 'new sound Wind',
    does: (s) => Object.keys(s.sounds),
    gives: ['shanty', 'wind'],
  },
  'change sound': {
    edit: { sound: 'shanty', values: { in: -3, out: 99, name: ' ' } },
    name: '3 settings of Shanty',
    does: ({ sounds: { shanty: s } }) => [s?.in, s?.out, s?.name],
    gives: [0, 4, 'Shanty'],
  },
  'remove sound': { edit: { sound: 'shanty' }, name: 'removal of Shanty', does: (s) => s.sounds, gives: {} },
  'sound lane': {
    edit: { lane: { ...PLAIN_SOUND_LANE, id: 'voices', name: 'Voices' } },
    name: 'new sound lane Voices',
    does: (s) => s.soundLaneOrder,
    gives: ['music', 'feet', 'voices'],
  },
  'order sound lane': {
    edit: { lane: 'feet', to: -1 },
    name: 'place of the sound lane Steps',
    does: (s) => s.soundLaneOrder,
    gives: ['feet', 'music'],
  },
  'remove sound lane': {
    edit: { lane: 'music' },
    name: 'removal of the sound lane Music',
    does: (s) => [s.soundLaneOrder, s.sounds],
    gives: [['feet'], {}],
  },
  line: {
    edit: { line: { ...PLAIN_LINE, id: 'answer', text: 'We are coming in', start: 60, end: 90 } },
    name: 'new line “We are coming in”',
    does: (s) => Object.keys(s.lines),
    gives: ['hail', 'answer'],
  },
  'remove line': {
    edit: { line: 'hail' },
    name: 'removal of the line “Come ashore!”',
    does: (s) => s.lines,
    gives: {},
  },
};

const laneId = fc.constantFrom('music', 'feet', 'gone');
const frame = fc.integer({ min: -200, max: 500 });
const time = fc.double({ min: -1, max: 6, noNaN: true });

/** Any edit of sounds and lines that can be made; what cannot be is refused. */
export const anySoundEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.record({
    type: fc.constant('change sound' as const),
    sound: fc.constantFrom('shanty', 'wind'),
    values: fc.record(
      {
        start: frame,
        in: time,
        out: time,
        repeat: fc.double({ min: 0, max: 5, noNaN: true }),
        gain: fc.integer({ min: -80, max: 30 }),
        fadeIn: time,
        fadeOut: time,
        lane: laneId,
        muted: fc.boolean(),
      },
      { requiredKeys: [] },
    ),
  }),
  fc.record({
    type: fc.constant('sound' as const),
    sound: fc.record({ start: frame, lane: laneId }).map((s): Sound => ({ ...shanty, id: 'wind', ...s })),
  }),
  fc.record({ type: fc.constant('remove sound' as const), sound: fc.constantFrom('shanty', 'wind') }),
  fc.record({ type: fc.constant('remove sound lane' as const), lane: laneId }),
  fc.record({
    type: fc.constant('order sound lane' as const),
    lane: laneId,
    to: fc.double({ min: -2, max: 4, noNaN: true }),
  }),
  fc.record({ type: fc.constant('remove character' as const), character: fc.constantFrom('c', 'd') }),
  fc.record({
    type: fc.constant('sound lane' as const),
    lane: fc
      .record({ id: fc.constantFrom('music', 'new'), character: fc.constantFrom('c', 'd', 'x') })
      .map(({ id, character }) => ({
        ...PLAIN_SOUND_LANE,
        id,
        name: id,
        steps: { character, surface: 'stone' as const },
      })),
  }),
  fc.record({
    type: fc.constant('line' as const),
    line: fc
      .record({ start: frame, end: frame })
      .map((l) => ({ ...PLAIN_LINE, id: 'hail', text: 'Aho', ...l })),
  }),
  fc.record({ type: fc.constant('remove line' as const), line: fc.constant('hail') }),
  fc.record({
    type: fc.constant('rate' as const),
    rate: fc.constantFrom(24, 30, 60),
    keep: fc.constantFrom('seconds', 'frames'),
  }),
);
