import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import type { Edit, Scene } from '@warper/core';
import { applyEdit } from '@warper/core';
import { assembleCues, parseCueSheet } from '@warper/formats';
import { library } from '../data/pageLibrary';
import { worseJoins } from './joins';
import { compileScene } from './plan';

const made = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../demo/made/${name}`, import.meta.url)));
const { scene } = await assembleCues(
  parseCueSheet(JSON.parse(new TextDecoder().decode(made('lamp-round.cues.json')))),
  (name) => Promise.resolve(made(name)),
  library,
);
const lane = scene.lanes.c1body!;
const planOf = (s: Scene) => compileScene(s).plan;
const after = (edit: Edit, s = scene): Scene => applyEdit(s, edit, library);

describe('joins that an edit makes worse', () => {
  it('are told where a segment between two that suited it is gone', () => {
    // Idle, walk start, walk: without the start it goes from standing into mid-stride.
    const [, start, walk] = lane.segments as [string, string, string];
    const gone = after({ type: 'remove', segment: start, close: true });
    const [worse] = worseJoins(planOf(scene), planOf(gone));
    expect(worse).toMatchObject({ segment: walk, from: 'Idle', to: 'Walk' });
    expect(worse!.measures.grade).not.toBe('good');
  });

  it('are not told of what changed elsewhere, or got better', () => {
    const renamed = after({ type: 'rename scene', name: 'Dusk' });
    expect(worseJoins(planOf(scene), planOf(renamed))).toEqual([]);
    const longer = after({
      type: 'change',
      segment: lane.segments.at(-1)!,
      values: { hold: { start: 0, end: 20 } },
    });
    expect(worseJoins(planOf(scene), planOf(longer))).toEqual([]);
    const [, start] = lane.segments as [string, string];
    const gone = after({ type: 'remove', segment: start, close: true });
    expect(worseJoins(planOf(gone), planOf(scene))).toEqual([]);
  });
});
