import { describe, expect, it } from '@jest/globals';
import type { Link } from '../scene/link';
import { PLAIN_HOLD } from '../scene/tether';
import { PLAIN_MARKER } from '../scene/marker';
import type { LayerLane } from '../scene/lane';
import type { Scene } from '../scene/scene';
import { after, library, spans, turn, two } from '../testing/arranging';
import { segmentOf } from '../testing/scenes';
import type { Edit } from './edit';
import { applyEdit } from './edit';

// a[0,90) loop, b[82,122), c[114,174) loop on lane l of the Keeper; e[20,60), f[70,120) on lane m of the Visitor.
const link = (
  follower: Link['follower'],
  leader: Link['leader'],
  offset: number,
  scene: Scene = two,
  id = 'k',
): Scene => after({ type: 'link', link: { id, follower, leader, offset } }, scene);

const start = (id: string): Link['follower'] => ({ of: 'segment', id, at: 'start' });
const end = (id: string): Link['follower'] => ({ of: 'segment', id, at: 'end' });
const all = (scene: Scene): string => `${spans(scene)} | ${spans(scene, 'm')}`;

describe('what is linked', () => {
  it('comes so many frames after its event, also when what is before that becomes longer', () => {
    const scene = link(start('f'), end('a'), 6);
    expect(all(scene)).toBe('a[0,90) b[82,122) c[114,174) | e[20,60) f[96,146)');
    const longer = after({ type: 'wait', from: 75, frames: 12, characters: ['c'], markers: false }, scene);
    expect(all(longer)).toBe('a[0,102) b[94,134) c[126,186) | e[20,60) f[108,158)');
  });

  it('waits with the last pose held before it where it is joined to that, with the loop going on where it is one', () => {
    const joined = after({ type: 'overlap', segment: 'f', frames: 5 }, two);
    const held = link(start('f'), start('b'), 10, joined);
    expect(spans(held, 'm')).toBe('e[20,97) f[92,142)');
    expect(held.segments.e?.hold).toEqual({ start: 0, end: 37 });
    const looped = link(start('b'), end('f'), 7);
    expect(spans(looped)).toBe('a[0,135) b[127,167) c[159,219)');
    expect(looped.segments.a).toMatchObject({ hold: { start: 0, end: 0 }, repeat: 4.5 });
  });

  it('comes earlier by closing gaps, then by what was held, then by cutting what is before it short', () => {
    const early = link(start('f'), start('e'), 30);
    expect(spans(early, 'm')).toBe('e[20,50) f[50,100)');
    const held = after({ type: 'wait', from: 60, frames: 20, characters: ['d'], markers: false }, early);
    expect(spans(held, 'm')).toBe('e[20,50) f[50,100)');
  });

  it('keeps its new distance where it is moved itself', () => {
    const scene = after({ type: 'move', segment: 'f', start: 130 }, link(start('f'), end('a'), 6));
    expect(scene.links.k?.offset).toBe(40);
    const longer = after({ type: 'repeat', segment: 'a', edge: 'end', frame: 105 }, scene);
    expect([spans(longer), spans(longer, 'm')]).toEqual([
      expect.stringMatching(/^a\[0,10\d\)/),
      'e[20,60) f[145,195)',
    ]);
  });

  it('lasts as long as another, loops by repeating and others by holding or being cut', () => {
    const longer = link(end('e'), end('a'), 0);
    expect(spans(longer, 'm')).toBe('e[20,90) f[90,140)');
    expect(longer.segments.e?.hold.end).toBe(30);
    const shorter = link(end('f'), end('a'), 0);
    expect(spans(shorter, 'm')).toBe('e[20,60) f[70,90)');
    expect(spans(link(end('c'), end('f'), 90))).toBe('a[0,90) b[82,122) c[114,210)');
  });

  it('hits at the same frame: a frame within a segment meets a frame within another', () => {
    const scene = link({ of: 'segment', id: 'f', at: 9 }, { of: 'segment', id: 'b', at: 20 }, 0);
    expect(scene.segments.f?.start).toBe(82 + 20 - 9);
  });

  it('goes through chains, over markers, tethers and keys', () => {
    const layer = two.lanes.y as LayerLane;
    const key = { frame: 30, value: 0.1, curve: 'flat', tangent: null, into: null } as const;
    const whole: Scene = {
      ...two,
      markers: [{ ...PLAIN_MARKER, id: 'q', name: 'hail', frame: 5 }],
      lanes: { ...two.lanes, y: { ...layer, rootKeys: { up: [key] } } },
      tethers: { t: { ...PLAIN_HOLD, id: 't', name: 'hold', child: 'c', parent: 'd', start: 4, end: 9 } },
    };
    let scene = link({ of: 'marker', id: 'q', at: 'start' }, end('a'), 0, whole, 'k1');
    scene = link(start('f'), { of: 'marker', id: 'q', at: 'start' }, 10, scene, 'k2');
    scene = link({ of: 'tether', id: 't', at: 'start' }, start('f'), 3, scene, 'k3');
    scene = link({ of: 'keys', id: 'y', at: 30 }, { of: 'tether', id: 't', at: 'end' }, 1, scene, 'k4');
    const read = (s: Scene): unknown => [
      s.markers[0]?.frame,
      s.segments.f?.start,
      s.tethers.t?.start,
      s.tethers.t?.end,
      (s.lanes.y as LayerLane).rootKeys.up?.[0]?.frame,
    ];
    expect(read(scene)).toEqual([90, 100, 103, 108, 109]);
    const later = after({ type: 'wait', from: 1, frames: 5, characters: ['c'], markers: false }, scene);
    expect(read(later)).toEqual([95, 105, 108, 113, 114]);
    const moved = after({ type: 'move keys', layer: 'y', frames: [114], by: 6 }, later);
    expect(moved.links.k4).toMatchObject({ follower: { at: 120 }, offset: 7 });
  });

  it('may not go round: the names are said', () => {
    const scene = link(start('f'), end('a'), 6);
    expect(() => link(start('a'), end('f'), 0, scene, 'k2')).toThrow(/walk for slow|slow for walk/);
    expect(() => link(start('b'), start('b'), 0)).toThrow(/wait for itself/);
    expect(() => link(start('b'), start('zz'), 0)).toThrow(/not there/);
  });

  it('is dropped with what it names, goes to the second part of a cut, and keeps its time at another rate', () => {
    const scene = link(start('f'), end('a'), 6);
    expect(after({ type: 'remove', segment: 'a', close: false }, scene).links).toEqual({});
    const cut = after({ type: 'cut', segment: 'a', frame: 40, id: 'n' }, scene);
    expect(cut.links.k?.leader).toEqual({ of: 'segment', id: 'n', at: 'end' });
    expect(cut.segments.f?.start).toBe(96);
    const faster = after({ type: 'rate', rate: 60, keep: 'seconds' }, scene);
    expect([faster.links.k?.offset, faster.segments.f?.start]).toEqual([12, 192]);
    const off = after({ type: 'switch', segment: 'a', off: true }, scene);
    expect(Object.keys(off.links)).toEqual(['k']);
  });

  it('has a beat that is inserted push on what waits for it', () => {
    const scene = link(start('f'), end('b'), 0);
    const edit: Edit = { type: 'place', lane: 'l', at: 30, segment: segmentOf(turn, { id: 'n' }) };
    const next = applyEdit(scene, edit, library);
    const ends = /b\[\d+,(\d+)\)/.exec(spans(next))?.[1];
    expect(Number(ends)).toBeGreaterThan(122);
    expect(spans(next, 'm')).toBe(`e[20,60) f[${ends},${Number(ends) + 50})`);
  });
});
