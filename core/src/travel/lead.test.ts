import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { evenly } from '../testing/evenly';
import type { LeadOnWay } from './lead';
import { wayOnLead } from './lead';

const FPS = 30;
/** Metres that the collar lies before the root, and its height. */
const COLLAR = [0, 0.5, 0.4] as const;

const wayOf = (frames: number, at: (f: number) => readonly [number, number, number]): Float64Array =>
  Float64Array.from(Array.from({ length: frames }, (_, f) => at(f)).flat());

const leadOf = (
  frames: number,
  hand: (f: number) => readonly [number, number, number],
  values: Partial<LeadOnWay> = {},
): LeadOnWay => ({
  collars: wayOf(frames, () => COLLAR),
  hands: wayOf(frames, hand),
  length: 1.6,
  from: 0,
  to: frames,
  ...values,
});

/** Metres over the floor from the collar to the hand. */
function apart(way: Float64Array, { hands }: LeadOnWay, f: number): number {
  const [x, z, turn] = way.subarray(f * 3, f * 3 + 3);
  const collar = [x! + COLLAR[2] * Math.sin(turn!), z! + COLLAR[2] * Math.cos(turn!)];
  return Math.hypot(hands[f * 3]! - collar[0]!, hands[f * 3 + 2]! - collar[1]!);
}

const step = (way: Float64Array, f: number): number =>
  Math.hypot(way[f * 3]! - way[f * 3 - 3]!, way[f * 3 + 1]! - way[f * 3 - 2]!);

describe('a way on a lead', () => {
  it('is what it was where the lead hangs loose', () => {
    const way = wayOf(60, (f) => [0, 0.01 * f, 0]);
    const lead = leadOf(60, (f) => [0.3, 0.9, 0.4 + 0.01 * f]);
    wayOnLead(way, lead, FPS).forEach((v, i) => expect(v).toBeCloseTo(way[i]!, 12));
  });

  it('keeps within the length of the lead, whoever leads wherever', () => {
    fc.assert(
      fc.property(
        evenly(0, 1.6),
        evenly(-3, 3),
        evenly(0, 1.4),
        evenly(-2, 2),
        (speed, bend, own, heading) => {
          const frames = 150;
          const hand = (f: number): readonly [number, number, number] => [
            speed * (f / FPS) * Math.sin((bend * f) / frames),
            0.9,
            speed * (f / FPS) * Math.cos((bend * f) / frames),
          ];
          const lead = leadOf(frames, hand);
          const way = wayOf(frames, (f) => [
            own * (f / FPS) * Math.sin(heading),
            own * (f / FPS) * Math.cos(heading),
            heading,
          ]);
          const led = wayOnLead(way, lead, FPS);
          const handStep = (f: number): number => {
            const [a, b] = [hand(f - 1), hand(f)];
            return Math.hypot(b[0] - a[0], b[2] - a[2]);
          };
          const most = Math.sqrt(1.6 ** 2 - 0.4 ** 2);
          for (let f = 1; f < frames; f++) expect(apart(led, lead, f)).toBeLessThan(most + 0.002);
          // Nothing jumps: no step is longer than the hand's and its own at its longest stride.
          for (let f = 1; f < frames; f++)
            expect(step(led, f)).toBeLessThan(handStep(f) + (own * 2.5 + 0.7) / FPS);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('turns after whoever leads, round a corner', () => {
    const frames = 240;
    const hand = (f: number): readonly [number, number, number] =>
      f < 90 ? [0.3, 0.9, 1 + 0.033 * f] : [0.3 + 0.033 * (f - 90), 0.9, 1 + 0.033 * 90];
    const lead = leadOf(frames, hand);
    const led = wayOnLead(
      wayOf(frames, (f) => [0, 0.033 * f, 0]),
      lead,
      FPS,
    );
    expect(Math.abs(led[(frames - 1) * 3 + 2]! - Math.PI / 2)).toBeLessThan(0.25);
    expect(led[(frames - 1) * 3]!).toBeGreaterThan(2.5);
    const turns = Array.from({ length: frames - 1 }, (_, f) => Math.abs(led[f * 3 + 5]! - led[f * 3 + 2]!));
    expect(Math.max(...turns)).toBeLessThan((6 * Math.PI) / 180);
  });

  it('draws in little by little what is too far away when it is put on, and is let go at the end', () => {
    const frames = 200;
    const lead = leadOf(frames, () => [0, 0.9, 5], { from: 40, to: 120 });
    const way = wayOf(frames, () => [0, 0, 0]);
    const led = wayOnLead(way, lead, FPS);
    expect([...led.subarray(0, 41 * 3)]).toEqual([...way.subarray(0, 41 * 3)]);
    for (let f = 41; f < 120; f++) expect(step(led, f)).toBeLessThan(0.6 / FPS + 1e-6);
    expect(apart(led, lead, 119)).toBeLessThan(apart(led, lead, 41) - 1);
    for (let f = 121; f < frames; f++) expect(step(led, f)).toBeCloseTo(0, 12);
  });

  it('turns to whoever leads before the lead is taut', () => {
    const frames = 60;
    const speed = 0.035;
    // Beside and a little ahead, at three quarters of the lead's reach.
    const lead = leadOf(frames, (f) => [0.9, 0.9, 1 + speed * f], { length: 1.6 });
    const way = wayOf(frames, (f) => [0, speed * f, 0]);
    const led = wayOnLead(way, lead, FPS);
    for (let f = 0; f < frames; f++) expect(apart(led, lead, f)).toBeLessThan(1.5);
    expect(led[20 * 3 + 2]).toBeGreaterThan(0.15);
    expect(led[20 * 3 + 2]).toBeLessThan(2.2 * 1.25 * speed * 20);
  });
});
