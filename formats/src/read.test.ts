import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { bodyId, clipId, hashBytes, sourceId, sourceOfId } from './hash';
import { MotionLibrary } from './library';
import { detectFile } from './detectFile';
import { readMotionFile } from './read';
import { snapRate } from './snapRate';
import { findRate } from './gltf/rate';

const bytes = (...values: number[]): Uint8Array => Uint8Array.of(...values);
const text = (value: string): Uint8Array => new TextEncoder().encode(value);
const made = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../demo/made/${encodeURIComponent(name)}`, import.meta.url)));

/** The first chunk of a PNG of one pixel, and its first data (ISO/IEC 15948). */
const png = bytes(0, 0, 0, 13, ...text('IHDR'), ...new Uint8Array(17), 0, 0, 0, 0, ...text('IDAT'));
/** The first page of Ogg Vorbis (RFC 3533). */
const ogg = bytes(...text('OggS'), ...new Uint8Array(24), 1, ...text('vorbis'), ...new Uint8Array(22));

describe('what a file is', () => {
  it.each<[string, Uint8Array, string, string?]>([
    ['GLB', text('glTF....'), 'gltf'],
    ['glTF', text('\n  {"asset":{}}'), 'gltf'],
    ['BVH', text('hierarchy\nROOT a'), 'bvh'],
    ['BVH after a byte order mark', bytes(0xef, 0xbb, 0xbf, ...text('HIERARCHY')), 'bvh'],
    ['USD as text', text('#usda 1.0\n'), 'usd'],
    ['USD, packed', text('PXR-USDC\0\u0009'), 'usd'],
    ['USDZ', text(`PK\u0003\u0004${'\0'.repeat(22)}\u0009\0\0\0lamp.usdc`), 'usd'],
    ['Collada', text('<?xml version="1.0"?>\n<!-- lamp -->\n<COLLADA version="1.4.1">'), 'collada'],
    ['another kind of XML', text('<?xml version="1.0"?><svg/>'), 'unknown'],
    ['zip', text('PK\u0003\u0004'), 'zip'],
    ['PNG', bytes(0x89, ...text('PNG\r\n\u001a\n'), ...png), 'picture', 'image/png'],
    ['JPEG', bytes(0xff, 0xd8, 0xff, 0xe0), 'picture', 'image/jpeg'],
    ['WAV', text('RIFF....WAVEfmt '), 'sound', 'audio/wav'],
    ['MP3', bytes(0xff, 0xfb, 0x90, 0x64, ...new Uint8Array(60)), 'sound', 'audio/mpeg'],
    ['OGG', ogg, 'sound', 'audio/ogg'],
    [
      'a PNG of which nothing but its signature is left',
      bytes(0x89, 0x50, 0x4e, 0x47),
      'picture',
      'image/png',
    ],
    ['an Ogg cut short', text('OggS....'), 'sound', 'audio/ogg'],
    ['a FLAC cut short', text('fLaC....'), 'sound', 'audio/flac'],
    ['text', text('walk'), 'text'],
    ['something else', bytes(1, 2, 3, 4), 'unknown'],
    ['nothing', bytes(), 'unknown'],
  ])('%s is told by its content', async (_, content, kind, ...types) => {
    expect(await detectFile(content)).toEqual({ kind, mediaType: types[0] ?? null });
  });

  it('errors carry the name of the file', async () => {
    await expect(readMotionFile(text('HIERARCHY\nROOT'), 'folder/a.bvh')).rejects.toMatchObject({
      place: { file: 'folder/a.bvh', line: 2 },
    });
  });
});

describe('ids', () => {
  it('are made of the content, and of the scale where one was asked for', () => {
    // FIPS 180-4: SHA-256 of "abc" begins so.
    expect(hashBytes(text('abc'))).toBe('ba7816bf8f01cfea4141');
    expect(sourceId(hashBytes(text('abc')), 0.01)).toBe('ba7816bf8f01cfea4141@0.01');
    expect(sourceOfId(clipId('x@0.01', 3))).toBe('x@0.01');
    expect(sourceOfId(bodyId('x', 0))).toBe('x');
  });
});

describe('rates', () => {
  it.each([
    [1 / 0.0333333, 30],
    [1 / 0.0083333, 120],
    [1 / 0.0333667, 30000 / 1001],
    [1 / 0.0417083, 24000 / 1001],
    [1 / 0.041667, 24],
    [1 / 0.0145, 68.9655172],
  ])('a written frame time of %f a second means %f', (measured, rate) => {
    expect(snapRate(measured)).toBeCloseTo(rate, 4);
  });

  it('of keys are the first usual one on which all of them fall', () => {
    expect(findRate([0, 1 / 30, 0.5])).toEqual({ rate: 30, even: true });
    expect(findRate([0, 1 / 25, 0.4])).toEqual({ rate: 25, even: true });
    expect(findRate([0, 1001 / 30000])).toEqual({ rate: 30, even: true });
    expect(findRate([0, 100 * (1001 / 30000)])).toEqual({ rate: 30000 / 1001, even: true });
    expect(findRate([0, 0.01234])).toEqual({ rate: 60, even: false });
  });
});

describe('the library in memory', () => {
  it('reads the same content once, and finds clips, bodies and their files', async () => {
    const library = new MotionLibrary();
    const first = await library.add(made('keeper-walk.glb'), 'a.glb');
    expect(await library.add(made('keeper-walk.glb'), 'b.glb')).toBe(first);
    expect(library.sources()).toHaveLength(1);
    const [clip] = first.imported.clips;
    expect(library.clip(clip!.id)).toBe(clip);
    expect(library.bodyOfClip(clip!).id).toBe(first.imported.bodies[0]!.id);
    expect(library.bodyEntry(first.imported.bodies[0]!.id)!.source.file).toBe('a.glb');
    expect(library.clip('nothing')).toBeUndefined();
    expect(() => library.bodyOfClip({ ...clip!, skeleton: { ...clip!.skeleton } })).toThrow(
      /not in the library/,
    );
  });
});
