import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Scene } from '../scene/scene';
import type { Sound } from '../scene/sound';
import { soundSeconds } from '../scene/sound';
import { two } from '../testing/arranging';
import { holdsThroughEdits } from '../testing/manyEdits';
import { anySoundEdit, shanty, sounding } from '../testing/soundExamples';
import { beatFrames, fitToBeats, steadyBeats, tempoOf } from './beats';
import { amplitudeOf, gainAt, heardSounds, sourceTimeAt } from './heardSounds';
import { trimmedSound } from './trimSound';

const scene: Scene = { ...two, ...sounding };
const heardShanty = heardSounds(scene, 30)[0]!;

describe('sounds', () => {
  it('can be read again whatever is done to them, and every edit can be taken back', () => {
    holdsThroughEdits(scene, anySoundEdit, ({ sounds }) => {
      for (const s of Object.values(sounds)) expect(s.out).toBeLessThanOrEqual(s.seconds + 0.01);
    });
  });

  it('are heard from their frame on, from where they are cut, over and over', () => {
    expect(heardShanty).toMatchObject({ source: 'abc', start: 1, end: 4, from: 0.5, to: 2 });
    expect(sourceTimeAt(heardShanty, 1)).toBe(0.5);
    expect(sourceTimeAt(heardShanty, 2.25)).toBe(1.75);
    expect(sourceTimeAt(heardShanty, 2.75)).toBe(0.75);
  });

  it('are as loud as their lanes and they are; 20 log10 of the amplitude is the decibels (IEC 60027-3)', () => {
    expect(20 * Math.log10(heardShanty.gain)).toBeCloseTo(-6, 12);
    expect(amplitudeOf(20)).toBeCloseTo(10, 12);
    const muted = {
      ...scene,
      soundLanes: { ...scene.soundLanes, music: { ...scene.soundLanes.music!, muted: true } },
    };
    expect(heardSounds(muted, 30)).toEqual([]);
    expect(heardSounds({ ...scene, sounds: { shanty: { ...shanty, muted: true } } }, 30)).toEqual([]);
  });

  it('rise and fall evenly in their fades, and are silent outside', () => {
    const faded = { ...heardShanty, gain: 1, fadeIn: 1, fadeOut: 2 };
    expect([0.9, 1, 1.25, 2, 3, 3.5, 4, 4.1].map((t) => gainAt(faded, t))).toEqual([
      0, 0, 0.25, 1, 0.5, 0.25, 0, 0,
    ]);
  });

  it('that are trimmed go on being heard where they were', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('start' as const, 'end' as const),
        fc.integer({ min: -100, max: 400 }),
        fc.constantFrom(1, 2, 3.5),
        (edge, frame, repeat) => {
          const sound = { ...shanty, repeat };
          const values = trimmedSound(sound, edge, frame, 30);
          const trimmed = { ...sound, ...values };
          expect(soundSeconds(trimmed)).toBeGreaterThan(0);
          expect(trimmed.in).toBeGreaterThanOrEqual(0);
          expect(trimmed.out).toBeLessThanOrEqual(sound.seconds);
          const heard = (s: Sound) => heardSounds({ ...scene, sounds: { shanty: s } }, 30)[0]!;
          const [before, after] = [heard(sound), heard(trimmed)];
          if (edge === 'start') expect(after.end).toBeCloseTo(before.end, 1);
          else expect(after.start).toBe(before.start);
          const from = Math.max(before.start, after.start);
          const to = Math.min(before.end, after.end);
          const each = sound.out - sound.in;
          for (let t = from + 0.01; t < to - 0.01; t += 0.1) {
            const gap = Math.abs(sourceTimeAt(after, t) - sourceTimeAt(before, t));
            // The start is a whole frame; of repeats the very end is the very beginning.
            expect(Math.min(gap, Math.abs(each - gap))).toBeLessThan(0.5 / 30 + 1e-9);
          }
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('beats', () => {
  it('are heard in every repeat, those that are cut off are not', () => {
    // 0.5, 1, 1.5 s of the file are heard at 1, 1.5, 2 s, and again 1.5 s later.
    expect(beatFrames(shanty, 30)).toEqual([30, 45, 60, 75, 90, 105]);
    expect(beatFrames({ ...shanty, repeat: 1.4 }, 30)).toEqual([30, 45, 60, 75, 90]);
    expect(beatFrames({ ...shanty, beats: [3] }, 30)).toEqual([]);
  });

  it('that are steady are found from taps that are not quite', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.25, max: 2, noNaN: true }),
        fc.double({ min: 0, max: 5, noNaN: true }),
        fc.array(fc.double({ min: -0.03, max: 0.03, noNaN: true }), { minLength: 8, maxLength: 40 }),
        (period, first, late) => {
          const tempo = tempoOf(late.map((l, i) => first + i * period + l))!;
          // The error of a slope by least squares is below that of the taps by the spread of their indices.
          expect(Math.abs(tempo.period - period)).toBeLessThan(0.03 * (6 / late.length));
          const within = steadyBeats(tempo, 1, 9);
          for (const t of within) expect(t > 1 - 1e-6 && t < 9).toBe(true);
          expect(Math.abs(within.length - 8 / tempo.period)).toBeLessThanOrEqual(1);
        },
      ),
    );
    // By hand: slope 5 / 5, mean 1.65 at index 1.5.
    const byHand = tempoOf([0.3, 1, 2, 3.3]);
    expect([byHand?.period, byHand?.first].map((v) => v?.toFixed(9))).toEqual(['1.000000000', '0.150000000']);
    expect(tempoOf([1])).toBeNull();
    expect(steadyBeats({ first: 0.5, period: 0.5 }, 0, 2)).toEqual([0, 0.5, 1, 1.5]);
  });

  it('have a loop’s strokes fall on them to within half a frame for the start, and half for the length', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 9, max: 60, noNaN: true }),
        fc.double({ min: 0, max: 50, noNaN: true }),
        fc.integer({ min: -50, max: 200 }),
        fc.integer({ min: 1, max: 8 }),
        fc.double({ min: 20, max: 70, noNaN: true }),
        fc.double({ min: 0, max: 0.99, noNaN: true }),
        (period, first, start, cycles, cycleFrames, stroke) => {
          const beats = steadyBeats({ first, period }, -200, 2000);
          const fit = fitToBeats(beats, { start, cycles, cycleFrames, stroke })!;
          expect(fit.off).toBeLessThanOrEqual(1 + 1e-6);
          // The first stroke is at the beat that is nearest to where it was.
          const first2 = fit.start + (stroke * fit.length) / cycles;
          expect(Math.abs(first2 - (start + stroke * cycleFrames))).toBeLessThanOrEqual(period / 2 + 1);
          // As near to its own speed as whole beats let it be.
          const own = cycleFrames / period;
          expect(Math.abs(fit.beatsOfCycle - own)).toBeLessThanOrEqual(own < 0.5 ? 0.99 : 0.5 + 1e-9);
        },
      ),
      { numRuns: 300 },
    );
    expect(fitToBeats([5], { start: 0, cycles: 1, cycleFrames: 30, stroke: 0 })).toBeNull();
  });
});
