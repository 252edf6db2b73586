import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { InputError } from '../math/errors';
import { two } from '../testing/arranging';
import { filmed, shotOf } from '../testing/cameraExamples';
import { alternated } from '../testing/alternateExamples';
import { shanty, sounding } from '../testing/soundExamples';
import { figureClip } from '../testing/figure';
import { sceneOf, segmentOf } from '../testing/scenes';
import { PLAIN_LAYER } from './lane';
import { PLAIN_LOOK } from './look';
import { SCENE_VERSION } from './scene';
import type { Segment } from './segment';
import { PLAIN_SEGMENT } from './segment';
import { PLAIN_LIMITS } from './choice';
import { parseScene } from './schema';

const clip = figureClip(10, (f) => ({ x: 0, z: f, turn: 0 }));
const scene = sceneOf([segmentOf(clip, { id: 'a' }), segmentOf(clip, { id: 'b', start: 20 })]);
const broken = (change: (s: Record<string, never>) => void): unknown => {
  const copy = JSON.parse(JSON.stringify(scene));
  change(copy);
  return copy;
};

describe('documents of older versions', () => {
  it.each([1, 2, 3, 4, 5])('of version %d are brought up to date', (version) => {
    const old = JSON.parse(
      readFileSync(new URL(`../testing/fixtures/scene-v${version}.json`, import.meta.url), 'utf8'),
    );
    expect(old.version).toBe(version);
    const migrated = parseScene(old);
    expect(migrated.version).toBe(SCENE_VERSION);
    expect(Object.keys(migrated.segments)).toEqual(Object.keys(old.segments));
    for (const [id, segment] of Object.entries(migrated.segments)) {
      expect(segment).toMatchObject({ phase: 0, lift: 0, off: false, start: old.segments[id].start });
      expect(segment.seam).toMatchObject({ height: false, facing: true });
      expect(['crossfade', 'settle']).toContain(segment.seam.kind);
    }
    for (const lane of Object.values(migrated.lanes))
      expect(lane).toMatchObject({ muted: false, locked: false });
    expect(parseScene(JSON.parse(JSON.stringify(migrated)))).toEqual(migrated);
  });

  it('of a newer program are refused', () => {
    const version = SCENE_VERSION + 1;
    expect(() => parseScene({ ...scene, version })).toThrow(
      new RegExp(`version ${version}.*up to ${SCENE_VERSION}`),
    );
  });

  it('joined by fields beside each other now join by one kind', () => {
    const old = JSON.parse(
      readFileSync(new URL('../testing/fixtures/scene-v4.json', import.meta.url), 'utf8'),
    );
    const seams = Object.values(parseScene(old).segments).map(({ seam: { nudge: _, ...seam } }) => seam);
    const own = { auto: false, chosen: null, limits: null };
    const placing = { fit: 'whole body', facing: true, height: false, gap: 'hold', ...own };
    const plain = { ...placing, kind: 'crossfade', curve: 'smooth', inStep: false };
    expect(seams.slice(1)).toEqual([
      plain,
      { ...placing, kind: 'settle', frames: 9 },
      { ...plain, curve: 'linear' },
      { ...plain, inStep: true },
      { ...plain, curve: [[0.4, 0.2]] },
      { ...placing, kind: 'settle', frames: 12 },
      { ...plain, gap: 'ease' },
      { ...placing, kind: 'settle', frames: 9 },
    ]);
    expect(parseScene(old)).toMatchObject({ groups: old.groups, markers: old.markers, range: old.range });
  });

  it('whose clips were performed on whatever legs go on so, new ones do not', () => {
    const old = JSON.parse(
      readFileSync(new URL('../testing/fixtures/scene-v6.json', import.meta.url), 'utf8'),
    );
    const segments = Object.values(parseScene(old).segments);
    expect(segments.map((s) => s.otherLegs)).toEqual(segments.map(() => true));
    expect(
      segments.map(({ otherLegs: _, seam: __, dials: ___, look: ____, meet: _____, ...rest }) => rest),
    ).toEqual(Object.values<Segment>(old.segments).map(({ seam: _, ...rest }) => rest));
    expect(PLAIN_SEGMENT.otherLegs).toBe(false);
  });

  it('whose made steps land where the clips have the feet go on so', () => {
    const old = JSON.parse(
      readFileSync(new URL('../testing/fixtures/scene-v7.json', import.meta.url), 'utf8'),
    );
    const { segments } = parseScene(old);
    for (const { id, seam } of Object.values(segments))
      expect(seam).toEqual({ ...old.segments[id].seam, ...(seam.kind === 'step' ? { landings: {} } : {}) });
    expect(Object.values(segments).filter((s) => s.seam.kind === 'step')).not.toHaveLength(0);
  });

  it('that knew of no posture are performed as they were', () => {
    const old = JSON.parse(
      readFileSync(new URL('../testing/fixtures/scene-v8.json', import.meta.url), 'utf8'),
    );
    const { segments, characters } = parseScene(old);
    for (const { id, dials, look, meet, ...rest } of Object.values(segments)) {
      expect([dials, look, meet]).toEqual([{}, null, null]);
      expect({ ...rest, id }).toEqual(old.segments[id]);
    }
    for (const { dials } of Object.values(characters)) expect(dials).toEqual({});
  });

  it('in which only layers looked at anything, and none were linked, are performed as they were', () => {
    const old = JSON.parse(
      readFileSync(new URL('../testing/fixtures/scene-v10.json', import.meta.url), 'utf8'),
    );
    const { segments, characters, lanes } = parseScene(old);
    const all = [...Object.values(segments), ...Object.values(characters)];
    expect(all.map((one) => one.look)).toEqual(all.map(() => null));
    expect(all).not.toHaveLength(0);
    const layers = Object.values(lanes).flatMap((l) => (l.kind === 'layer' ? [l] : []));
    expect(layers.map(({ pair: _, ...rest }) => rest)).toEqual(layers.map(({ id }) => old.lanes[id]));
    expect(layers.map(({ pair, look }) => [pair, look !== null])).toEqual([[null, true]]);
  });

  it('that knew of no props and tethers are performed as they were', () => {
    const old = JSON.parse(
      readFileSync(new URL('../testing/fixtures/scene-v11.json', import.meta.url), 'utf8'),
    );
    expect(old.version).toBe(11);
    const { characters, tethers, segments, links, pickedJoints, ...rest } = parseScene(old);
    expect([tethers, links, pickedJoints]).toEqual([{}, {}, {}]);
    const { characters: _, segments: performed, ...others } = old;
    const { cameras, cameraOrder, shots, aspect, ...unseen } = rest;
    expect([cameras, cameraOrder, shots, aspect]).toEqual([{}, [], {}, 16 / 9]);
    const { sounds, soundLanes, soundLaneOrder, lines, alternates, alternateOrder, ...same } = unseen;
    expect([sounds, soundLanes, soundLaneOrder, lines]).toEqual([{}, {}, [], {}]);
    expect([alternates, alternateOrder]).toEqual([{}, []]);
    expect(same).toEqual({ ...others, version: SCENE_VERSION });
    for (const { meet, ...segment } of Object.values(segments)) {
      expect(meet).toBeNull();
      expect(segment).toEqual(performed[segment.id]);
    }
    for (const { prop, ...character } of Object.values(characters)) {
      expect(prop).toBeNull();
      expect(character).toEqual(old.characters[character.id]);
    }
  });

  it('that knew of no cameras keep all that they had', () => {
    const old = JSON.parse(
      readFileSync(new URL('../testing/fixtures/scene-v13.json', import.meta.url), 'utf8'),
    );
    expect(old.version).toBe(13);
    const { cameras, cameraOrder, shots, aspect, ...unseen } = parseScene(old);
    expect([cameras, cameraOrder, shots, aspect]).toEqual([{}, [], {}, 16 / 9]);
    const { sounds, soundLanes, soundLaneOrder, lines, alternates, alternateOrder, ...rest } = unseen;
    expect([sounds, soundLanes, soundLaneOrder, lines]).toEqual([{}, {}, [], {}]);
    expect([alternates, alternateOrder]).toEqual([{}, []]);
    expect(rest).toEqual({ ...old, version: SCENE_VERSION });
    expect(Object.keys(rest.links)).toEqual(['l1']);
  });

  it('that knew of no sounds keep all that they had', () => {
    const old = JSON.parse(
      readFileSync(new URL('../testing/fixtures/scene-v14.json', import.meta.url), 'utf8'),
    );
    expect(old.version).toBe(14);
    const { sounds, soundLanes, soundLaneOrder, lines, alternates, alternateOrder, ...rest } =
      parseScene(old);
    expect([sounds, soundLanes, soundLaneOrder, lines]).toEqual([{}, {}, [], {}]);
    expect([alternates, alternateOrder]).toEqual([{}, []]);
    expect(rest).toEqual({ ...old, version: SCENE_VERSION });
    expect(Object.values(rest.shots).map((s) => s.blend)).toEqual([0, 12]);
  });

  it('that knew of no alternates keep all that they had', () => {
    const old = JSON.parse(
      readFileSync(new URL('../testing/fixtures/scene-v15.json', import.meta.url), 'utf8'),
    );
    expect(old.version).toBe(15);
    const { alternates, alternateOrder, ...rest } = parseScene(old);
    expect([alternates, alternateOrder]).toEqual([{}, []]);
    expect(rest).toEqual({ ...old, version: SCENE_VERSION });
    expect(Object.values(rest.sounds).map((s) => s.beats)).toEqual([[1, 1.5, 2]]);
  });

  it('with alternates are refused where none or two are in hand, or one would be no scene', () => {
    const refused = (changed: object): string => {
      try {
        parseScene({ ...two, ...alternated, ...changed });
      } catch (error) {
        return (error as InputError).place.path ?? '';
      }
      return 'read';
    };
    const { plain, slow } = alternated.alternates;
    const slowWith = (...differences: unknown[]): object => ({
      alternates: { plain, slow: { ...slow, differences } },
    });
    expect(refused({})).toBe('read');
    expect(refused({ alternateOrder: ['plain'] })).toBe('alternateOrder');
    expect(refused({ alternates: { plain, slow: { ...slow, differences: null } } })).toBe('alternates');
    expect(refused({ alternates: { plain: { ...plain, differences: [] }, slow } })).toBe('alternates');
    expect(refused({ alternates: { plain, slow: { ...plain, differences: [] } } })).toBe('alternates.slow');
    expect(refused(slowWith({ op: 'remove', path: ['segments', 'b'] }))).toBe('alternates.slow.differences');
    expect(refused(slowWith({ op: 'replace', path: ['segments', 'b', 'speed'], value: 0 }))).toBe(
      'alternates.slow.differences',
    );
    expect(refused(slowWith({ op: 'replace', path: ['rate'], value: 24 }))).toBe(
      'alternates.slow.differences.0.path.0',
    );
    expect(refused(slowWith({ op: 'add', path: ['groups', 'x', 'y', 'z'], value: 1 }))).toBe(
      'alternates.slow.differences',
    );
    expect(() =>
      parseScene({ ...two, ...alternated, ...slowWith({ op: 'remove', path: ['segments', 'b'] }) }),
    ).toThrow(/alternate Slow cannot be: .*segment b.*lanes\.l\.segments/);
  });

  it('with sounds are refused where these lie on no lane, or lanes make nobody’s steps heard', () => {
    const soundScene = { ...two, ...sounding };
    const refused = (changed: object): string => {
      try {
        parseScene({ ...soundScene, ...changed });
      } catch (error) {
        return (error as InputError).place.path ?? '';
      }
      return 'read';
    };
    expect(refused({})).toBe('read');
    const { music, feet } = sounding.soundLanes;
    const steps = { character: 'x', surface: 'wood' };
    expect(refused({ sounds: { shanty: { ...shanty, lane: 'none' } } })).toBe('sounds.shanty.lane');
    expect(refused({ sounds: { shanty: { ...shanty, in: 2 } } })).toBe('sounds.shanty.out');
    expect(refused({ sounds: { shanty: { ...shanty, beats: [1, 1] } } })).toBe('sounds.shanty.beats');
    expect(refused({ soundLanes: { music, feet: { ...feet, steps } } })).toBe('soundLanes.feet.steps');
    expect(refused({ soundLaneOrder: ['music'] })).toBe('soundLaneOrder');
    expect(refused({ soundLaneOrder: ['music', 'feet', 'more'] })).toBe('soundLaneOrder');
    expect(refused({ lines: { a: { id: 'a', text: '', speaker: '', start: 0, end: 1 } } })).toBe(
      'lines.a.text',
    );
  });

  it('with cameras are refused where these name nobody, or shots overlap', () => {
    const filmedScene = { ...two, ...filmed };
    const refused = (changed: object): string => {
      try {
        parseScene({ ...filmedScene, ...changed });
      } catch (error) {
        return (error as InputError).place.path ?? '';
      }
      return 'read';
    };
    expect(refused({})).toBe('read');
    const { wide, near } = filmedScene.cameras;
    expect(
      refused({ cameras: { wide, near: { ...near, look: { character: 'x', joint: null, lag: 0 } } } }),
    ).toBe('cameras.near');
    expect(refused({ cameraOrder: ['wide'] })).toBe('cameraOrder');
    expect(refused({ cameraOrder: ['wide', 'near', 'far'] })).toBe('cameraOrder');
    expect(refused({ shots: { 1: shotOf('1', 'far', 0, 9) } })).toBe('shots.1.camera');
    expect(refused({ shots: { 1: shotOf('1', 'near', 0, 9), 2: shotOf('2', 'near', 8, 9) } })).toBe(
      'shots.2',
    );
    expect(refused({ shots: { 1: shotOf('1', 'near', 9, 9) } })).toBe('shots.1.end');
  });

  it('that knew of no links and meetings are performed as they were', () => {
    const old = JSON.parse(
      readFileSync(new URL('../testing/fixtures/scene-v12.json', import.meta.url), 'utf8'),
    );
    expect(old.version).toBe(12);
    const { markers, segments, tethers, links } = parseScene({
      ...old,
      markers: [{ id: 'm', name: 'hail', frame: 9, end: null }],
    });
    expect(markers).toEqual([{ id: 'm', name: 'hail', frame: 9, end: null, impact: [] }]);
    expect(Object.values(segments).map((s) => s.meet)).toEqual(Object.keys(segments).map(() => null));
    expect(tethers).toEqual(old.tethers);
    expect(Object.keys(tethers)).toHaveLength(2);
    expect(links).toEqual({});
  });

  it('whose layers knew no keys of dials, and looked at nothing, are performed as they were', () => {
    const old = JSON.parse(
      readFileSync(new URL('../testing/fixtures/scene-v9.json', import.meta.url), 'utf8'),
    );
    const layers = Object.values(parseScene(old).lanes).flatMap((l) => (l.kind === 'layer' ? [l] : []));
    expect(layers).toHaveLength(1);
    for (const { dialKeys, look, contacts, pair, ...rest } of layers) {
      expect([dialKeys, look, contacts, pair]).toEqual([{}, null, [], null]);
      expect(rest).toEqual(old.lanes[rest.id]);
    }
  });

  it('whose joins were all set by hand keep them', () => {
    const old = JSON.parse(
      readFileSync(new URL('../testing/fixtures/scene-v5.json', import.meta.url), 'utf8'),
    );
    const scene = parseScene(old);
    expect(scene.choice).toEqual(PLAIN_LIMITS);
    for (const { id, seam } of Object.values(scene.segments))
      expect(seam).toEqual({ ...old.segments[id].seam, auto: false, chosen: null, limits: null });
  });
});

describe('scene documents', () => {
  it('are read back as they were', () => {
    expect(parseScene(JSON.parse(JSON.stringify(scene)))).toEqual(scene);
  });

  it.each<[string, (s: never) => void, RegExp]>([
    ['a missing part', (s: { lanes?: unknown }) => delete s.lanes, /lanes/],
    ['a wrong number', (s: { segments: { a: { repeat: number } } }) => (s.segments.a.repeat = -1), /repeat/],
    ['an unknown key', (s: { mood?: string }) => (s.mood = 'dark'), /mood/],
    ['an out before its in', (s: { segments: { a: { out: number } } }) => (s.segments.a.out = 0), /out/],
    [
      'a lane of nobody',
      (s: { lanes: { l: { character: string } } }) => (s.lanes.l.character = 'x'),
      /character x/,
    ],
    [
      'a segment that is not there',
      (s: { lanes: { l: { segments: string[] } } }) => s.lanes.l.segments.push('z'),
      /segment z/,
    ],
    [
      'a segment on no lane',
      (s: { lanes: { l: { segments: string[] } } }) => s.lanes.l.segments.pop(),
      /lane for segment b/,
    ],
    [
      'a look at nobody',
      (s: { lanes: Record<string, unknown>; laneOrder: string[] }) => {
        const look = { ...PLAIN_LOOK, at: { character: 'x' } };
        s.lanes.y = { ...PLAIN_LAYER, id: 'y', character: 'c', name: 'look', look };
        s.laneOrder.push('y');
      },
      /character x/,
    ],
    ['a newer version', (s: { version: number }) => (s.version = 99), /version 99/],
  ])('refuse %s', (_, change, message) => {
    const value = broken(change as (s: Record<string, never>) => void);
    expect(() => parseScene(value)).toThrow(InputError);
    expect(() => parseScene(value)).toThrow(message);
  });

  it.each([null, 7, 'scene', [], {}])('refuse %j', (value) => {
    expect(() => parseScene(value)).toThrow(InputError);
  });
});
