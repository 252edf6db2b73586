import { expect } from '@jest/globals';
import type { Edit } from '../edit/edit';
import { PLAIN_LAYER } from '../scene/lane';
import type { Example } from './example';

const upright = { frame: 12, rotation: [0, 0, 0, 1], curve: 'hold', tangent: null, into: null } as const;

const still = { frame: 12, value: 0.1, curve: 'flat', tangent: null, into: null } as const;
/** Keys of the layer wave. */
export const nodding = {
  keys: { spine: [upright, { ...upright, frame: 17 }] },
  rootKeys: { up: [still, { ...still, frame: 17 }] },
};

type Layered = Extract<
  Edit['type'],
  | 'add layer'
  | 'change layer'
  | 'remove layer'
  | 'pair layers'
  | 'raise layer'
  | 'key'
  | 'move keys'
  | 'remove keys'
  | 'layer keys'
  | 'root key'
  | 'dial key'
>;

/** Examples of edits of layers and their keys. */
export const LAYER_EXAMPLES: { readonly [T in Layered]: Example<T> } = {
  'add layer': {
    edit: { layer: { ...PLAIN_LAYER, id: 'z', name: 'nod', character: 'c' } },
    name: 'addition of the layer nod',
    does: (s) => s.laneOrder,
    gives: ['l', 'z', 'm', 'y'],
  },
  'change layer': {
    edit: { layer: 'y', values: { softness: 3 } },
    name: 'softness of the layer wave',
    does: (s) => s.lanes.y,
    gives: expect.objectContaining({ softness: 3 }),
  },
  'remove layer': {
    edit: { layer: 'y' },
    name: 'removal of the layer wave',
    does: (s) => [s.laneOrder, s.segments.g],
    gives: [['l', 'm'], undefined],
  },
  'pair layers': {
    edit: { layer: 'y', with: null },
    name: 'parting of the layer wave from its other side',
    does: (s) => s.lanes.y,
    gives: expect.objectContaining({ pair: null }),
  },
  'raise layer': {
    edit: { layer: 'y', by: 1 },
    name: 'order of the layer wave',
    does: (s) => s.laneOrder,
    gives: ['l', 'm', 'y'],
  },
  key: {
    edit: { layer: 'y', joint: 'head', key: upright },
    name: 'key of head at frame 12',
    does: (s) => s.lanes.y,
    gives: expect.objectContaining({ keys: { ...nodding.keys, head: [upright] } }),
  },
  'move keys': {
    edit: { layer: 'y', frames: [12], by: 5 },
    name: 'move of a key of the layer wave',
    does: (s) => s.lanes.y,
    gives: expect.objectContaining({
      keys: { spine: [{ ...upright, frame: 17 }] },
      rootKeys: { up: [{ ...still, frame: 17 }] },
    }),
  },
  'remove keys': {
    edit: { layer: 'y', frames: [17] },
    name: 'removal of a key of the layer wave',
    does: (s) => s.lanes.y,
    gives: expect.objectContaining({ keys: { spine: [upright] }, rootKeys: { up: [still] } }),
  },
  'layer keys': {
    edit: {
      layer: 'y',
      label: 'scaling of keys',
      keys: { spine: [], head: [upright] },
      weight: [[4, 0.5]],
      weightShape: 'smooth',
    },
    name: 'scaling of keys of the layer wave',
    does: (s) => s.lanes.y,
    gives: expect.objectContaining({
      keys: { head: [upright] },
      rootKeys: nodding.rootKeys,
      weight: [[4, 0.5]],
      weightShape: 'smooth',
    }),
  },
  'root key': {
    edit: {
      layer: 'y',
      curve: 'forward',
      key: { frame: 12, value: -0.4, curve: 'flat', tangent: null, into: null },
    },
    name: 'key of the root (forward) at frame 12',
    does: (s) => s.lanes.y,
    gives: expect.objectContaining({
      rootKeys: {
        ...nodding.rootKeys,
        forward: [{ frame: 12, value: -0.4, curve: 'flat', tangent: null, into: null }],
      },
    }),
  },
  'dial key': {
    edit: {
      layer: 'y',
      dial: 'lean',
      key: { frame: 12, value: 15, curve: 'flat', tangent: null, into: null },
    },
    name: 'key of lean at frame 12',
    does: (s) => s.lanes.y,
    gives: expect.objectContaining({
      dialKeys: { lean: [{ frame: 12, value: 15, curve: 'flat', tangent: null, into: null }] },
    }),
  },
};
