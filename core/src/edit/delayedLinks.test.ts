import { describe, expect, it } from '@jest/globals';
import { PLAIN_MARKER } from '../scene/marker';
import type { Scene } from '../scene/scene';
import { after, library, two } from '../testing/arranging';
import { delayedLinks } from './delayedLinks';

// a[0,90) b[82,122) c[114,174) on lane l of the Keeper; e[20,60), f[70,120) on lane m of the Visitor.
const linked: Scene = after(
  {
    type: 'link',
    link: {
      id: 'k',
      follower: { of: 'segment', id: 'f', at: 'start' },
      leader: { of: 'segment', id: 'a', at: 'end' },
      offset: 6,
    },
  },
  {
    ...two,
    characters: { ...two.characters, g: { ...two.characters.d!, id: 'g', name: 'Dog' } },
    characterOrder: ['c', 'd', 'g'],
    lanes: { ...two.lanes, n: { ...two.lanes.m!, id: 'n', character: 'g', segments: ['h'] } },
    laneOrder: [...two.laneOrder, 'n'],
    segments: { ...two.segments, h: { ...two.segments.f!, id: 'h', start: 100 } },
    markers: [
      { ...PLAIN_MARKER, id: 'q', name: 'hail', frame: 150 },
      { ...PLAIN_MARKER, id: 'p', name: 'early', frame: 5 },
    ],
  },
);
const longer = (scene: Scene): Scene =>
  after({ type: 'wait', from: 75, frames: 12, characters: ['c'], markers: false }, scene);

describe('what an edit has delayed by links', () => {
  it('is said with its frames, and with who and what has something behind it that did not move', () => {
    expect(delayedLinks(linked, longer(linked), library)).toEqual({
      name: 'slow',
      from: 96,
      frames: 12,
      characters: ['g'],
      markers: true,
    });
  });

  it('is nothing where nothing moved, where it moved earlier, or where it was moved by itself', () => {
    expect(delayedLinks(linked, linked, library)).toBeNull();
    const moved = after({ type: 'move', segment: 'f', start: 130 }, linked);
    expect(delayedLinks(linked, moved, library)).toBeNull();
    expect(delayedLinks(longer(linked), linked, library)).toBeNull();
    expect(delayedLinks(two, linked, library)).toBeNull();
  });

  it('is not asked about where nothing else could wait', () => {
    const alone: Scene = {
      ...linked,
      markers: [],
      segments: { ...linked.segments, h: { ...linked.segments.h!, start: 10 } },
    };
    expect(delayedLinks(alone, longer(alone), library)).toBeNull();
  });
});
