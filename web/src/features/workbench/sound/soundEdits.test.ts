import { describe, expect, it } from '@jest/globals';
import type { Edit, Scene } from '@warper/core';
import { applyEdit, compile, emptyScene, fixedLibrary, soundEnd } from '@warper/core';
import fc from 'fast-check';
import { addSoundEdit, captionsEdit, captionsOf, markersAt } from './soundEdits';
import { frameAfter } from './soundClock';

const library = fixedLibrary({ clip: () => undefined, body: () => undefined });
const empty = emptyScene('Sounds', 25);
const done = (scene: Scene, edit: Edit): Scene => applyEdit(scene, edit, library);
const wind = { id: 'abc', name: 'wind', seconds: 4 };

describe('a sound of the library', () => {
  it('goes onto a lane that is free there, else onto a new one, and gets a name of its own', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 400 }), { maxLength: 8 }), (frames) => {
        let scene = empty;
        for (const frame of frames)
          scene = done(scene, addSoundEdit(scene, compile(scene, library), wind, frame).edit);
        const sounds = Object.values(scene.sounds);
        expect(sounds.map((s) => s.start)).toEqual(frames);
        expect(new Set(sounds.map((s) => s.name)).size).toBe(frames.length);
        for (const lane of scene.soundLaneOrder) {
          const own = sounds.filter((s) => s.lane === lane).sort((a, b) => a.start - b.start);
          own.forEach((s, i) => i > 0 && expect(s.start).toBeGreaterThanOrEqual(soundEnd(own[i - 1]!, 25)));
        }
      }),
      { numRuns: 50 },
    );
  });

  it('goes onto the lane in hand, whatever is there', () => {
    const one = done(empty, addSoundEdit(empty, compile(empty, library), wind, 10).edit);
    const lane = one.soundLaneOrder[0]!;
    const two = done(one, addSoundEdit(one, compile(one, library), wind, 12, lane).edit);
    expect(two.soundLaneOrder).toEqual([lane]);
    expect(Object.keys(two.sounds)).toHaveLength(2);
  });
});

describe('markers', () => {
  it('come at whole frames, once, and not where there are some', () => {
    const scene = done(empty, markersAt(empty, 'Beat', [10.4, 10.3, 20, -3])!);
    expect(scene.markers.map((m) => [m.name, m.frame])).toEqual([
      ['Beat 1', 10],
      ['Beat 2', 20],
    ]);
    expect(markersAt(scene, 'Beat', [10, 20])).toBeNull();
  });
});

describe('lines of a captions file', () => {
  it('take the place of those that are there, and come out as they went in, to the frame', () => {
    const plan = compile(empty, library);
    const captions = [
      { text: 'Ahoy', speaker: 'Keeper', start: 0.51, end: 0.52 },
      { text: 'Coming in', speaker: '', start: 2, end: 4 },
    ];
    const scene = done(done(empty, captionsEdit(empty, plan, captions)), { type: 'rename scene', name: 'a' });
    const again = done(scene, captionsEdit(scene, plan, captions));
    expect(Object.keys(again.lines)).toHaveLength(2);
    // 0.51 s is frame 12.75, so 13; a line has a frame at least.
    expect(captionsOf(again, plan)).toEqual([
      { ...captions[0]!, start: 13 / 25, end: 14 / 25 },
      { ...captions[1]! },
    ]);
  });
});

describe('the frame after so many that have passed', () => {
  const range = { begin: 30, from: 20, to: 50, loops: true, fps: 30, pace: 1 };
  it('goes on from where it began, and in a loop from its start', () => {
    expect([0, 19.5, 20, 49.75, 50, 81].map((p) => frameAfter(p, 30, range))).toEqual([
      30, 49.5, 20, 49.75, 20, 21,
    ]);
  });

  it('is none once it is over, or where there is nothing', () => {
    expect(frameAfter(19.9, 30, { ...range, loops: false })).toBe(49.9);
    expect(frameAfter(20, 30, { ...range, loops: false })).toBeNull();
    expect(frameAfter(0, 0, { ...range, from: 5, to: 5 })).toBeNull();
  });
});
