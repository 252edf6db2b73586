import type { Clip, LayerLane, PoseKey, Segment } from '@warper/core';
import { PLAIN_LAYER } from '@warper/core';
import { quatFromEuler } from '@warper/core/kernels';
import { partSegment } from './part';
import type { CueKey, CueLayer, CuePart } from './sheet';

/** Layer lanes of one character with their segments, bottom first. */
export async function assembleLayers(
  layers: readonly CueLayer[],
  character: string,
  path: string,
  open: (cue: CuePart, path: string) => Promise<Clip>,
): Promise<{ lanes: LayerLane[]; segments: Segment[] }> {
  const lanes: LayerLane[] = [];
  const segments: Segment[] = [];
  for (const [i, layer] of layers.entries()) {
    const id = `${character}layer${i + 1}`;
    const own: Segment[] = [];
    for (const [j, cue] of (layer.cues ?? []).entries()) {
      const where = `${path}.layers[${i}].cues[${j}]`;
      const segment = partSegment(cue, await open(cue, where), `${id}s${j + 1}`, where);
      own.push({ ...segment, start: cue.at, fade: { in: cue.fadeIn ?? 0, out: cue.fadeOut ?? 0 } });
    }
    own.sort((a, b) => a.start - b.start);
    segments.push(...own);
    const weight = typeof layer.weight === 'number' ? ([[0, layer.weight]] as const) : (layer.weight ?? []);
    lanes.push({
      ...PLAIN_LAYER,
      id,
      character,
      name: layer.name,
      blend: layer.kind ?? 'override',
      mask: (layer.mask ?? []).map((m) =>
        typeof m === 'string' ? { bone: m, weight: 1 } : { bone: m.bone, weight: m.weight ?? 1 },
      ),
      softness: layer.softness ?? 0,
      weight: [...weight].sort((a, b) => a[0] - b[0]),
      reference: layer.reference ?? 'first',
      segments: own.map((s) => s.id),
      keys: Object.fromEntries(
        Object.entries(layer.keys ?? {}).map(([joint, keys]) => [joint, keys.map(poseKey)]),
      ),
    });
  }
  return { lanes, segments };
}

const RADIANS = Math.PI / 180;

function poseKey(key: CueKey): PoseKey {
  const [x, y, z] = key.turn.map((v) => v * RADIANS) as [number, number, number];
  const [qx, qy, qz, qw] = quatFromEuler(x, y, z, [0, 1, 2], new Float64Array(4), 0) as unknown as [
    number,
    number,
    number,
    number,
  ];
  const tangent = key.tangent?.map((v) => v * RADIANS) as [number, number, number] | undefined;
  return {
    frame: key.frame,
    rotation: [qx, qy, qz, qw],
    curve: key.curve ?? 'smooth',
    tangent: tangent ?? null,
  };
}
