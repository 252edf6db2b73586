import { describe, expect, it } from '@jest/globals';
import type { Moment, Scene } from '@warper/core';
import { PLAIN_MARKER, compile, defined } from '@warper/core';
import { holdOf, stagedLibrary, stagedScene } from '../../../../../core/src/testing/staged';
import { library } from '../../../data/pageLibrary';
import { eventsOf, laneMates, momentWords, nearestLink } from './events';

// What the page's library is asked for is what the scene is made of.
Object.assign(library, { clip: stagedLibrary.clip });

const scene: Scene = {
  ...stagedScene(holdOf()),
  markers: [{ ...PLAIN_MARKER, id: 'm', name: 'hail', frame: 33, end: 40 }],
};
const plan = compile(scene, stagedLibrary);
const events = eventsOf(scene, plan);

describe('events that can be waited for', () => {
  it('are starts and ends of segments, tethers and regions, in order of their frames', () => {
    expect(events.map((e) => e.frame)).toEqual([0, 0, 20, 33, 40, 60, 90, 90]);
    expect(events.map((e) => e.words)).toEqual([
      'Keeper: stroll starts',
      'Visitor: stroll starts',
      'Crate: carry starts',
      'Marker hail',
      'Region hail ends',
      'Crate: carry ends',
      'Keeper: stroll ends',
      'Visitor: stroll ends',
    ]);
  });

  it('have words, also for a frame within a segment', () => {
    const within: Moment = { of: 'segment', id: 'a', at: 12 };
    expect(momentWords(within, events)).toBe('Keeper: stroll, frame 12');
    expect(momentWords({ of: 'marker', id: 'm', at: 'end' }, events)).toBe('Region hail ends');
    expect(momentWords({ of: 'marker', id: 'zz', at: 'start' }, events)).toBe('something');
  });

  it('make a link to the nearest that leaves everything where it is', () => {
    const link = defined(nearestLink(scene, plan, { of: 'tether', id: 't', at: 'end' }));
    expect(link).toMatchObject({ leader: { of: 'marker', id: 'm', at: 'end' }, offset: 20 });
    const marker = defined(nearestLink(scene, plan, { of: 'marker', id: 'm', at: 'start' }));
    expect(marker).toMatchObject({ leader: { of: 'tether', id: 't', at: 'start' }, offset: 13 });
  });

  it('are not those of the same lane, which moves as one', () => {
    expect([...laneMates(scene, 'segment', 'va')]).toEqual(['segment va']);
    const link = defined(nearestLink(scene, plan, { of: 'segment', id: 'va', at: 'start' }));
    expect(link.leader).toEqual({ of: 'segment', id: 'a', at: 'start' });
  });
});
