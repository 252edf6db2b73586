import { readFileSync } from 'node:fs';
import type { Clip, LocalTracks } from '@warper/core';
import { bake, compile, defined, makePoseBuffer, reduceKeys, samplePose } from '@warper/core';
import { quatMultiply, quatRotate, quatSlerp } from '@warper/core/kernels';
import { assembleCues, parseCueSheet, readBvh } from '@warper/formats';
import { ready, resample } from 'keyframe-resample';

/** The error that is asked for, metres. */
const ERROR = 0.001;

/** Keys that stay of motion within a millimetre, beside those of the resampling of gltf-transform at the same true error. */
export async function benchReducing(): Promise<void> {
  await ready;
  const capture = readBvh(
    new Uint8Array(readFileSync('formats/fixtures/cmu-01-01-excerpt.bvh')),
    'capture.bvh',
    {
      hash: 'known',
    },
  );
  report('capture (CMU 01_01, 120 frames a second)', tracksOf(defined(capture.clips[0])));
  report('the Keeper of the demonstration', tracksOf(await keeper()));
}

async function keeper(): Promise<Clip> {
  const load = (name: string): Promise<Uint8Array> =>
    Promise.resolve(new Uint8Array(readFileSync(`demo/made/${name}`)));
  const sheet: unknown = JSON.parse(readFileSync('demo/made/lamp-round.cues.json', 'utf8'));
  const { scene, library } = await assembleCues(parseCueSheet(sheet), load);
  const plan = compile(scene, library);
  return bake(defined(plan.characters[0]), plan.rate);
}

function report(what: string, tracks: LocalTracks): void {
  const samples = tracks.frames * (tracks.rotations.length + tracks.translations.filter(Boolean).length);
  const since = performance.now();
  const linear = reduceKeys(tracks, { errorMetres: ERROR });
  const took = performance.now() - since;
  const cubic = reduceKeys(tracks, { errorMetres: ERROR, interpolation: 'cubic' });
  const own = keysOf(linear.joints.map((k) => [k.rotations, k.translations]));
  const kept = linear.joints.map((k): Kept => [k.rotations, k.translations]);
  const peer = resampledWithin(tracks, ERROR);
  const percent = (keys: number): string => `${keys} keys (${((100 * keys) / samples).toFixed(0)} %)`;
  const millimetres = (error: number): string => `${(error * 1000).toFixed(2)} mm`;
  console.log(`Keys of ${what}, ${tracks.frames} frames, ${tracks.rotations.length} joints`);
  console.log(
    `  Warper, linear     ${percent(own)}, true error ${millimetres(errorOf(tracks, kept))}, ${took.toFixed(0)} ms`,
  );
  console.log(
    `  Warper, cubic      ${percent(keysOf(cubic.joints.map((k) => [k.rotations, k.translations])))}`,
  );
  console.log(
    `  keyframe-resample  ${percent(keysOf(peer))}, true error ${millimetres(errorOf(tracks, peer))}`,
  );
  console.log(`  linear keys        ${((100 * own) / keysOf(peer)).toFixed(0)} % of its keys\n`);
}

/** The keys of a joint's rotations and places. */
type Kept = readonly [Int32Array, Int32Array | null];

const keysOf = (kept: readonly Kept[]): number =>
  kept.reduce((sum, [turns, places]) => sum + turns.length + (places?.length ?? 0), 0);

/** The fewest keys that the peer leaves with a true error up to the one asked for: its tolerance is of numbers, track by track. */
function resampledWithin(tracks: LocalTracks, error: number): Kept[] {
  let [low, high] = [1e-7, 1e-1];
  let best = resampled(tracks, low);
  for (let i = 0; i < 18; i++) {
    const tolerance = Math.sqrt(low * high);
    const kept = resampled(tracks, tolerance);
    if (errorOf(tracks, kept) <= error) [low, best] = [tolerance, kept];
    else high = tolerance;
  }
  return best;
}

const resampled = ({ frames, rotations, translations }: LocalTracks, tolerance: number): Kept[] =>
  rotations.map((values, j): Kept => {
    const places = translations[j];
    return [
      resampledTrack(values, frames, 'slerp', tolerance),
      places ? resampledTrack(places, frames, 'lerp', tolerance) : null,
    ];
  });

function resampledTrack(
  values: Float32Array,
  frames: number,
  how: 'slerp' | 'lerp',
  tolerance: number,
): Int32Array {
  const times = Float32Array.from({ length: frames }, (_, f) => f);
  const count = resample(times, values.slice(), how, tolerance);
  return Int32Array.from(times.subarray(0, count));
}

/** Local transforms of a clip's joints, joint by joint, each rotation on the side of the one before. */
function tracksOf(clip: Clip): LocalTracks {
  const { skeleton, frames } = clip;
  const moves = new Set(clip.translated);
  const rotations = skeleton.names.map(() => new Float32Array(frames * 4));
  const translations = skeleton.names.map((_, j) => (moves.has(j) ? new Float32Array(frames * 3) : null));
  const buffer = makePoseBuffer(skeleton);
  for (let f = 0; f < frames; f++) {
    const pose = samplePose(clip, f, buffer);
    rotations.forEach((track, j) => {
      track.set(pose.rotations.subarray(j * 4, j * 4 + 4), f * 4);
      let dot = 0;
      for (let k = 0; f > 0 && k < 4; k++) dot += track[f * 4 + k]! * track[f * 4 - 4 + k]!;
      if (dot < 0) for (let k = 0; k < 4; k++) track[f * 4 + k] = -track[f * 4 + k]!;
      translations[j]?.set(pose.translations.subarray(j * 3, j * 3 + 3), f * 3);
    });
  }
  const offsets = Float64Array.from(skeleton.restTranslations);
  return { frames, parents: Int32Array.from(skeleton.parents), offsets, rotations, translations };
}

/** Furthest that a joint comes off its place, at samples and halfway between them, metres. */
function errorOf(tracks: LocalTracks, kept: readonly Kept[]): number {
  const every = Int32Array.from({ length: tracks.frames }, (_, f) => f);
  const all = kept.map(([, places]): Kept => [every, places && every]);
  const joints = kept.length;
  const [own, other] = [new Float64Array(joints * 3), new Float64Array(joints * 3)];
  let most = 0;
  for (let s = 0; s <= tracks.frames - 1; s += 0.5) {
    placesAt(tracks, all, s, own);
    placesAt(tracks, kept, s, other);
    for (let p = 0; p < joints * 3; p += 3)
      most = Math.max(
        most,
        Math.hypot(own[p]! - other[p]!, own[p + 1]! - other[p + 1]!, own[p + 2]! - other[p + 2]!),
      );
  }
  return most;
}

const _turn = new Float64Array(4);
const _place = new Float64Array(3);
let _world = new Float64Array(0);

function placesAt(
  { parents, offsets, ...tracks }: LocalTracks,
  kept: readonly Kept[],
  s: number,
  out: Float64Array,
): void {
  if (_world.length < kept.length * 4) _world = new Float64Array(kept.length * 4);
  kept.forEach(([turns, places], j) => {
    const values = tracks.rotations[j]!;
    const [a, b, t] = around(turns, s);
    quatSlerp(values, a * 4, values, b * 4, t, _turn, 0);
    const moved = tracks.translations[j];
    if (moved && places) {
      const [from, to, share] = around(places, s);
      for (let k = 0; k < 3; k++)
        _place[k] = moved[from * 3 + k]! + share * (moved[to * 3 + k]! - moved[from * 3 + k]!);
    } else for (let k = 0; k < 3; k++) _place[k] = offsets[j * 3 + k]!;
    const up = parents[j]!;
    if (up < 0) {
      _world.set(_turn, j * 4);
      out.set(_place, j * 3);
      return;
    }
    quatMultiply(_world, up * 4, _turn, 0, _world, j * 4);
    quatRotate(_world, up * 4, _place, 0, out, j * 3);
    for (let k = 0; k < 3; k++) out[j * 3 + k]! += out[up * 3 + k]!;
  });
}

/** The keys around a sample, and its share of the way between them. */
function around(keys: Int32Array, s: number): readonly [number, number, number] {
  let low = 0;
  let high = keys.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (keys[middle]! <= s) low = middle;
    else high = middle - 1;
  }
  const [a, b] = [keys[low]!, keys[low + 1] ?? keys[low]!];
  return [a, b, b > a ? (s - a) / (b - a) : 0];
}
