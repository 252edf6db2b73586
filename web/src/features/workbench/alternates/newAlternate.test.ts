import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { alternateInHand, alternatesOf, applyEdit } from '@warper/core';
import { assembleCues, parseCueSheet } from '@warper/formats';
import { library } from '../../../data/pageLibrary';
import { isSameScope, newAlternate, scopeInHand, scopeWords } from './newAlternate';

const made = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../../../demo/made/${name}`, import.meta.url)));
const assembled = await assembleCues(
  parseCueSheet(JSON.parse(new TextDecoder().decode(made('before-dark.cues.json')))),
  (name) => Promise.resolve(made(name)),
  library,
);
const region = { id: 'r', name: 'beat', frame: 60, end: 90, impact: [] };
const scene = { ...assembled.scene, markers: [region, { ...region, id: 'm', end: null }] };
const [first, second] = scene.lanes.c1body!.segments as [string, string];
const visitor = scene.lanes.c2body!.segments[0]!;

describe('a new alternate', () => {
  it('may differ in what is in hand: segments, a region, a shot, what is played over and over, or the whole', () => {
    const one = scopeInHand(scene, { kind: 'segment', id: first });
    const two = scopeInHand(scene, { kind: 'segment', id: first, with: [second] });
    expect([one?.from, one?.characters, two?.from]).toEqual([0, ['c1'], 0]);
    expect(two!.to).toBeGreaterThan(one!.to);
    expect(scopeInHand(scene, { kind: 'segment', id: first, with: [visitor] })?.characters).toEqual([
      'c1',
      'c2',
    ]);
    expect(scopeInHand(scene, { kind: 'marker', id: 'r' })).toEqual({ from: 60, to: 90, characters: null });
    expect(scopeInHand(scene, { kind: 'marker', id: 'm' })).toBeNull();
    const [shot] = Object.values(scene.shots);
    expect(scopeInHand(scene, { kind: 'shot', id: shot!.id })).toEqual({
      from: shot!.start,
      to: shot!.end,
      characters: null,
    });
    expect(scopeInHand(scene, { kind: 'scene' })).toBeNull();
    const ranged = { ...scene, range: { from: 5, to: 50 } };
    expect(scopeInHand(ranged, { kind: 'scene' })).toEqual({ from: 5, to: 50, characters: null });
    expect(scopeInHand(ranged, { kind: 'character', id: 'c1' })).toBeNull();
  });

  it('has a name of its own, and gives the scene in hand one where it had none', () => {
    const made = newAlternate(scene, { kind: 'scene' });
    expect([made.kept?.name, made.name]).toEqual(['Alternate 1', 'Alternate 2']);
    const next = applyEdit(scene, made, library);
    expect(alternateInHand(next)?.name).toBe('Alternate 2');
    const third = newAlternate(next, { kind: 'scene' });
    expect([third.kept, third.name]).toEqual([null, 'Alternate 3']);
    const all = applyEdit(next, third, library);
    expect(alternatesOf(all).map((a) => a.name)).toEqual(['Alternate 1', 'Alternate 2', 'Alternate 3']);
  });

  it('tells the same frames of the same characters from others', () => {
    const scope = { from: 4, to: 9, characters: ['c1', 'c2'] };
    expect(isSameScope(scope, { ...scope, characters: ['c1', 'c2'] })).toBe(true);
    expect(isSameScope(null, null)).toBe(true);
    for (const other of [
      null,
      { ...scope, to: 10 },
      { ...scope, characters: ['c1'] },
      { ...scope, characters: null },
    ])
      expect(isSameScope(scope, other)).toBe(false);
  });

  it('says what may differ in it', () => {
    expect(scopeWords(null, scene)).toBe('the whole scene');
    expect(scopeWords({ from: 4, to: 9, characters: null }, scene)).toBe('frames 4 to 8, everything');
    expect(scopeWords({ from: 4, to: 9, characters: ['c1', 'c2'] }, scene)).toBe(
      'frames 4 to 8, Keeper and Visitor',
    );
    expect(scopeWords({ from: 4, to: 9, characters: ['c1', 'c2', 'c3'] }, scene)).toBe(
      'frames 4 to 8, 3 characters',
    );
  });
});
