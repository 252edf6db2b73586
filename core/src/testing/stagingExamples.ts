import { expect } from '@jest/globals';
import type { Edit } from '../edit/edit';
import type { Prop } from '../scene/prop';
import type { Hold } from '../scene/tether';
import { PLAIN_HOLD } from '../scene/tether';
import { spans } from './arranging';
import type { Example } from './example';

export const crate: Prop = { shape: 'box', size: [0.4, 0.3, 0.4], colour: '#8a6b4a', raised: 0 };
export const held: Hold = {
  ...PLAIN_HOLD,
  id: 't',
  name: 'carry',
  child: 'c',
  parent: 'd',
  joint: 'head',
  start: 10,
  end: 40,
};

type Staging = Extract<
  Edit['type'],
  | 'tether'
  | 'change tether'
  | 'remove tether'
  | 'link'
  | 'remove link'
  | 'meet'
  | 'pick joint'
  | 'wait'
  | 'change prop'
>;

/** Examples of edits of props and tethers, and of what several characters do together. */
export const STAGING_EXAMPLES: { readonly [T in Staging]: Example<T> } = {
  tether: {
    edit: { tether: { ...held, id: 'u', name: ' Led ', child: 'c', parent: 'd', muted: true, kind: 'hold' } },
    name: 'tether of Keeper to Visitor',
    does: (s) => s.tethers.u,
    gives: expect.objectContaining({ name: 'Led', child: 'c', parent: 'd', start: 10, end: 40 }),
  },
  'change tether': {
    edit: { tether: 't', values: { end: null, places: [true, false, true] } },
    name: 'end and places of the tether carry',
    does: (s) => s.tethers.t,
    gives: expect.objectContaining({ end: null, places: [true, false, true] }),
  },
  'remove tether': {
    edit: { tether: 't' },
    name: 'removal of the tether carry',
    does: (s) => s.tethers,
    gives: {},
  },
  link: {
    edit: {
      link: {
        id: 'n',
        follower: { of: 'marker', id: 'q', at: 'start' },
        leader: { of: 'segment', id: 'b', at: 'end' },
        offset: -2,
      },
    },
    name: 'link of wave',
    does: (s) => [Object.keys(s.links), s.markers[0]?.frame, spans(s, 'm')],
    gives: [['k', 'n'], 120, 'e[20,60) f[150,200)'],
  },
  'remove link': {
    edit: { link: 'k' },
    name: 'removal of the link of slow',
    does: (s) => [s.links, spans(s, 'm')],
    gives: [{}, 'e[20,60) f[70,120)'],
  },
  meet: {
    edit: {
      segment: 'b',
      meeting: { character: 'd', frame: 10, distance: 0.8, angle: 0, turn: 0, joints: null },
    },
    name: 'meeting of turn and Visitor',
    does: (s) => s.segments.b?.meet,
    gives: { character: 'd', frame: 10, distance: 0.8, angle: 0, turn: 0, joints: null },
  },
  'pick joint': {
    edit: { body: 'body', use: 'collar', joint: 'neck' },
    name: 'collar',
    does: (s) => s.pickedJoints,
    gives: { body: { collar: 'neck' } },
  },
  wait: {
    edit: { from: 75, frames: 8, characters: ['c'], markers: false },
    name: 'wait of 8 frames',
    does: (s) => [spans(s), spans(s, 'm'), s.tethers.t?.start],
    gives: ['a[0,98) b[90,130) c[122,182)', 'e[20,60) f[70,120)', 10],
  },
  'change prop': {
    edit: { character: 'd', body: 'other', prop: { ...crate, raised: 0.5 } },
    name: 'shape of Visitor',
    does: (s) => [s.characters.d?.body, s.characters.d?.prop?.raised],
    gives: ['other', 0.5],
  },
};
