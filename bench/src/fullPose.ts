import type { Clip, LayerLane, Scene, Skeleton } from '@warper/core';
import {
  PLAIN_LAYER,
  compile,
  evaluate,
  makePoseBuffer,
  makeWorldPose,
  poseToWorld,
  fixedLibrary,
} from '@warper/core';
import { compare } from './measure';
import { sceneOf, segmentOf } from './scenes';

const POSES = 2000;

/** Joints of the additive layer: a branch of the skeleton, about a quarter of it. */
const MASK = [{ bone: 'joint4*', weight: 1 }];

/** A crossfade, a masked additive layer and two held feet, against a loop that samples, crossfades and transforms. */
export function benchFullPose(skeleton: Skeleton, a: Clip, b: Clip): void {
  const layer: LayerLane = {
    ...PLAIN_LAYER,
    id: 'layer',
    character: 'c',
    name: 'layer',
    blend: 'additive',
    mask: MASK,
    segments: ['x'],
  };
  const body = sceneOf([segmentOf(a, 'a', 0), segmentOf(b, 'b', 1)]);
  const standing = { leftToes: [[0, a.frames]], rightToes: [[0, a.frames]] } as const;
  const scene: Scene = {
    ...body,
    characters: { c: { ...body.characters.c!, footLock: true } },
    lanes: { ...body.lanes, layer },
    laneOrder: ['l', 'layer'],
    segments: { ...body.segments, x: segmentOf(b, 'x', 0) },
    steps: { [a.id]: standing, [b.id]: standing },
  };
  const plan = compile(scene, fixedLibrary({ clip: (id) => (id === a.id ? a : b), body: () => skeleton }));
  const character = plan.characters[0]!;
  const buffer = makePoseBuffer(skeleton);
  const world = makeWorldPose(skeleton);
  const bare = bareLoop(skeleton, a, b);
  const frameOf = (i: number): number => 2 + (i % (a.frames - 4)) + 0.3;
  compare(
    'Crossfade, masked additive layer and two held feet, against a bare loop of sampling, crossfade and world transforms',
    'pose',
    POSES,
    () => {
      for (let i = 0; i < POSES; i++) {
        poseToWorld(skeleton, evaluate(character, frameOf(i), buffer), world);
      }
    },
    {
      name: 'bare loop',
      run: () => {
        for (let i = 0; i < POSES; i++) bare(frameOf(i), i / POSES);
      },
    },
  );
}

/** What a pose costs at least: two clips sampled linearly, blended by slerp, and brought into world space. */
function bareLoop(skeleton: Skeleton, a: Clip, b: Clip): (frame: number, w: number) => void {
  const joints = skeleton.names.length;
  const { parents, restTranslations } = skeleton;
  const [p, q] = [new Float64Array(joints * 4), new Float64Array(joints * 4)];
  const [world, places] = [new Float64Array(joints * 4), new Float64Array(joints * 3)];
  const sample = (clip: Clip, frame: number, out: Float64Array): void => {
    const first = Math.floor(frame);
    const t = frame - first;
    const r = clip.rotations;
    for (let i = 0, f = first * joints * 4, g = f + joints * 4; i < joints * 4; i += 4) {
      let dot = 0;
      for (let k = 0; k < 4; k++) dot += r[f + i + k]! * r[g + i + k]!;
      const s = dot < 0 ? -t : t;
      let n = 0;
      for (let k = 0; k < 4; k++) {
        out[i + k] = (1 - t) * r[f + i + k]! + s * r[g + i + k]!;
        n += out[i + k]! * out[i + k]!;
      }
      n = 1 / Math.sqrt(n);
      for (let k = 0; k < 4; k++) out[i + k]! *= n;
    }
  };
  return (frame, w) => {
    sample(a, frame, p);
    sample(b, frame - 1, q);
    for (let i = 0; i < joints * 4; i += 4) {
      let dot = p[i]! * q[i]! + p[i + 1]! * q[i + 1]! + p[i + 2]! * q[i + 2]! + p[i + 3]! * q[i + 3]!;
      const sign = dot < 0 ? -1 : 1;
      dot *= sign;
      let [wa, wb] = [1 - w, w * sign];
      if (dot < 0.9999) {
        const angle = Math.acos(dot);
        const sine = Math.sin(angle);
        wa = Math.sin((1 - w) * angle) / sine;
        wb = (sign * Math.sin(w * angle)) / sine;
      }
      for (let k = 0; k < 4; k++) p[i + k] = wa * p[i + k]! + wb * q[i + k]!;
    }
    for (let i = 0; i < joints; i++) {
      const parent = parents[i]!;
      const o = i * 4;
      if (parent < 0) {
        for (let k = 0; k < 4; k++) world[o + k] = p[o + k]!;
        continue;
      }
      const u = parent * 4;
      const [x, y, z, v] = [world[u]!, world[u + 1]!, world[u + 2]!, world[u + 3]!];
      const [c, d, e, f] = [p[o]!, p[o + 1]!, p[o + 2]!, p[o + 3]!];
      world[o] = v * c + x * f + y * e - z * d;
      world[o + 1] = v * d - x * e + y * f + z * c;
      world[o + 2] = v * e + x * d - y * c + z * f;
      world[o + 3] = v * f - x * c - y * d - z * e;
      const [g, h, l] = [
        restTranslations[i * 3]!,
        restTranslations[i * 3 + 1]!,
        restTranslations[i * 3 + 2]!,
      ];
      const [tx, ty, tz] = [2 * (y * l - z * h), 2 * (z * g - x * l), 2 * (x * h - y * g)];
      places[i * 3] = places[parent * 3]! + g + v * tx + y * tz - z * ty;
      places[i * 3 + 1] = places[parent * 3 + 1]! + h + v * ty + z * tx - x * tz;
      places[i * 3 + 2] = places[parent * 3 + 2]! + l + v * tz + x * ty - y * tx;
    }
  };
}
