import fc from 'fast-check';
import type { Edit } from '../edit/edit';
import type { Camera } from '../scene/camera';
import { PLAIN_CAMERA } from '../scene/camera';
import type { Scene } from '../scene/scene';
import type { Shot } from '../scene/shot';
import { PLAIN_SHOT, shotsInOrder } from '../scene/shot';
import type { Example } from './example';

const smooth = { curve: 'smooth', tangent: null, into: null } as const;

/** A camera with keys that looks at the Keeper. */
const keyed: Camera = {
  ...PLAIN_CAMERA,
  id: 'wide',
  name: 'Wide',
  keys: { x: [{ frame: 10, value: 1, ...smooth }], lens: [{ frame: 10, value: 50, ...smooth }] },
  look: { character: 'c', joint: 'head', lag: 0 },
};

export const shotOf = (id: string, camera: string, start: number, end: number, blend = 0): Shot => ({
  ...PLAIN_SHOT,
  id,
  name: `Shot ${id}`,
  camera,
  start,
  end,
  blend,
});

/** Two cameras and three shots; between the last two of them is a gap. */
export const filmed: Pick<Scene, 'cameras' | 'cameraOrder' | 'shots'> = {
  cameras: { wide: keyed, near: { ...PLAIN_CAMERA, id: 'near', name: 'Near' } },
  cameraOrder: ['wide', 'near'],
  shots: {
    1: shotOf('1', 'wide', 0, 40),
    2: shotOf('2', 'near', 40, 70, 10),
    3: shotOf('3', 'wide', 80, 120),
  },
};

/** Shots as a text: "1[0,40)". */
export const shotSpans = ({ shots }: Scene): string =>
  shotsInOrder(shots)
    .map(({ id, start, end }) => `${id}[${start},${end})`)
    .join(' ');

type Filming = Extract<
  Edit['type'],
  | 'aspect'
  | 'camera'
  | 'camera key'
  | 'change camera'
  | 'change shot'
  | 'move camera keys'
  | 'order shot'
  | 'remove camera'
  | 'remove shot'
  | 'shot'
>;

/** Examples of edits of cameras and shots. */
export const CAMERA_EXAMPLES: { readonly [T in Filming]: Example<T> } = {
  aspect: { edit: { aspect: 2.39 }, name: 'aspect of the picture', does: (s) => s.aspect, gives: 2.39 },
  camera: {
    edit: { camera: { ...PLAIN_CAMERA, id: 'high', name: 'High' } },
    name: 'new camera High',
    does: (s) => [s.cameraOrder, s.cameras.high?.name],
    gives: [['wide', 'near', 'high'], 'High'],
  },
  'camera key': {
    edit: { camera: 'wide', frame: 10, values: { x: null, lens: 9999, roll: 2 }, curve: 'linear' },
    name: 'key of Wide at frame 10',
    does: (s) => [s.cameras.wide?.keys, s.cameras.wide?.base.x],
    gives: [
      {
        lens: [{ frame: 10, value: 1200, curve: 'linear', tangent: null, into: null }],
        roll: [{ frame: 10, value: 2, curve: 'linear', tangent: null, into: null }],
      },
      1,
    ],
  },
  'change camera': {
    edit: { camera: 'wide', values: { look: null, name: ' ', back: [24.89, 18.66] } },
    name: '3 settings of Wide',
    does: ({ cameras: { wide } }) => [wide?.name, wide?.look, wide?.back],
    gives: ['Wide', null, [24.89, 18.66]],
  },
  'change shot': {
    edit: { shot: '2', values: { start: 35 } },
    name: 'start of the shot Shot 2',
    does: shotSpans,
    gives: '1[0,35) 2[35,70) 3[80,120)',
  },
  'move camera keys': {
    edit: { camera: 'wide', from: 10, to: 25.4 },
    name: 'keys of Wide to frame 25.4',
    does: (s) => Object.values(s.cameras.wide?.keys ?? {}).map((keys) => keys.map((k) => k.frame)),
    gives: [[25], [25]],
  },
  'order shot': {
    edit: { shot: '3', to: 0 },
    name: 'place of the shot Shot 3',
    does: shotSpans,
    gives: '3[0,40) 1[40,80) 2[80,110)',
  },
  'remove camera': {
    edit: { camera: 'wide' },
    name: 'removal of Wide',
    does: (s) => [s.cameraOrder, shotSpans(s)],
    gives: [['near'], '2[40,70)'],
  },
  'remove shot': {
    edit: { shot: '1' },
    name: 'removal of the shot Shot 1',
    does: shotSpans,
    gives: '2[40,70) 3[80,120)',
  },
  shot: {
    edit: { shot: shotOf('4', 'near', 10, 30) },
    name: 'shot Shot 4',
    does: shotSpans,
    gives: '1[0,10) 4[10,30) 1-4[30,40) 2[40,70) 3[80,120)',
  },
};

const cameraId = fc.constantFrom('wide', 'near');
const shotId = fc.constantFrom('1', '2', '3');
const frame = fc.integer({ min: -20, max: 200 });

/** Any edit of cameras and shots that can be made; those that are gone are refused. */
export const anyFilmingEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.record({
    type: fc.constant('camera key' as const),
    camera: cameraId,
    frame,
    values: fc.record(
      { x: fc.option(fc.integer({ min: -9, max: 9 })), lens: fc.option(fc.integer({ min: 1, max: 2000 })) },
      { requiredKeys: [] },
    ),
    curve: fc.constantFrom('smooth', 'hold'),
  }),
  fc.record({ type: fc.constant('move camera keys' as const), camera: cameraId, from: frame, to: frame }),
  fc.record({
    type: fc.constant('change shot' as const),
    shot: shotId,
    values: fc.record(
      { start: frame, end: frame, blend: fc.nat(30), camera: cameraId },
      { requiredKeys: [] },
    ),
  }),
  fc
    .tuple(fc.constantFrom('1', '4', '5'), cameraId, frame, fc.integer({ min: 1, max: 90 }), fc.nat(30))
    .map(([id, camera, start, length, blend]): Edit => ({
      type: 'shot',
      shot: shotOf(id, camera, start, start + length, blend),
    })),
  fc.record({ type: fc.constant('order shot' as const), shot: shotId, to: fc.integer({ min: -1, max: 5 }) }),
  fc.record({ type: fc.constant('remove shot' as const), shot: shotId }),
  fc.record({ type: fc.constant('remove camera' as const), camera: cameraId }),
  fc.record({ type: fc.constant('aspect' as const), aspect: fc.constantFrom(1, 16 / 9, 2.39) }),
);
