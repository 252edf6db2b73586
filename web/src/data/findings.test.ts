import { describe, expect, it } from '@jest/globals';
import { clipFacts, findLoops, makeSkeleton } from '@warper/core';
import { clipPreview, readMotionFile } from '@warper/formats';
import { readFileSync } from 'node:fs';
import { findClips } from './findings';
import type { ReadResult } from '../workers/protocol';

const bytesOf = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../demo/made/${name}`, import.meta.url)));
const bytes = bytesOf('keeper-walk.glb');
const imported = await readMotionFile(bytes, 'keeper-walk.glb');
const walk = imported.clips[0]!;
const walkStart = (await readMotionFile(bytesOf('keeper-walk-start.glb'), 'start.glb')).clips[0]!;

/** The result of reading a file with one clip, its facts or its skeleton changed. */
function resultOf(
  facts: Partial<ReturnType<typeof clipFacts>> = {},
  clip = walk,
  file = 'walks/evening walk.glb',
): ReadResult {
  return {
    imported: { ...imported, clips: [clip] },
    file: { id: 'f', file, bytes, addedAt: 0 },
    clips: [
      {
        id: 'f#0',
        source: 'f',
        file,
        name: clip.name,
        order: 0,
        facts: { ...clipFacts(clip), ...facts },
        tags: [],
        collections: [],
      },
    ],
    previews: [{ id: 'f#0', ...clipPreview(clip) }],
    entries: [],
    bodies: [],
  };
}
const codes = (...given: Parameters<typeof findClips>): string[] =>
  findClips(...given)[0]!.remarks.map((r) => r.code);

describe('what is said of a clip that comes in', () => {
  it('is nothing where there is nothing odd', () => {
    expect(findClips(resultOf(), new Set())[0]).toMatchObject({
      original: 'Walk',
      restPose: false,
      remarks: [],
    });
  });

  it('is its new name, from its file, else with a number', () => {
    const names = (...taken: string[]): string => findClips(resultOf(), new Set(taken))[0]!.clip.name;
    expect(names('run')).toBe('Walk');
    expect(names('walk')).toBe('evening walk Walk');
    expect(names('walk', 'evening walk walk')).toBe('Walk 2');
    expect(names('walk', 'evening walk walk', 'walk 2')).toBe('Walk 3');
    expect(findClips(resultOf({}, walk, 'walk.glb'), new Set(['walk']))[0]!.clip.name).toBe('Walk 2');
    expect(codes(resultOf(), new Set(['walk']))).toEqual(['same-name']);
  });

  it('is what was measured: rest poses, other rates, floating and sinking feet, jumps', () => {
    expect(codes(resultOf({ restPose: true, rate: 24 }), new Set())).toEqual(['rest-pose']);
    expect(codes(resultOf(), new Set(), 24)).toEqual(['rate']);
    expect(codes(resultOf({ rate: 29.97 }), new Set(), '30000/1001')).toEqual([]);
    expect(codes(resultOf({ floatCm: 2.4 }), new Set())).toEqual(['float']);
    expect(findClips(resultOf({ floatCm: -6 }), new Set())[0]!.remarks[0]!.message).toMatch(/sink by 6.0 cm/);
    expect(codes(resultOf({ floatCm: 1.9, jumps: [{ sample: 12, metres: 0.6 }] }), new Set())).toEqual([
      'jump',
    ]);
  });

  it('is which parts repeat, where the whole does not', () => {
    const loops = findLoops(walkStart).slice(0, 2);
    const whole = clipFacts(walkStart).loop;
    const result = resultOf({ loop: whole }, walkStart);
    const [found] = findClips({ ...result, clips: [{ ...result.clips[0]!, loops }] }, new Set());
    const said = found!.remarks.find((r) => r.code === 'repeats')!;
    expect(said.message).toContain(`${loops[0]!.in} to ${loops[0]!.out}`);
    // The walk runs on into its start: there is nothing to say.
    expect(codes(resultOf(), new Set())).toEqual([]);
  });

  it('is that its joints are not known, unless it is a prop or a dog', () => {
    const bare = makeSkeleton({
      names: walk.skeleton.names.map((_, i) => `bone ${i}`),
      parents: walk.skeleton.parents,
      restTranslations: walk.skeleton.restTranslations,
      restRotations: walk.skeleton.restRotations,
    });
    expect(codes(resultOf({}, { ...walk, skeleton: bare }), new Set())).toContain('unmapped');
    const prop = makeSkeleton({
      names: ['base', 'lid'],
      parents: [-1, 0],
      restTranslations: [0, 0, 0, 0, 1, 0],
    });
    const result = resultOf();
    expect(
      codes({ ...result, imported: { ...imported, clips: [{ ...walk, skeleton: prop }] } }, new Set()),
    ).not.toContain('unmapped');
  });
});
