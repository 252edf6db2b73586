import type { Dial } from '../clip/dials';
import type { Edit } from '../edit/edit';
import { framesPerSecond, parseRate } from '../math/rate';
import type { LayerLane, LayerSpan } from '../scene/lane';
import type { Scene } from '../scene/scene';

/** Seconds in which a layer comes in and goes out once its jump is mended. */
const FADE_SECONDS = 0.3;

interface LayerMend {
  readonly edit: Edit;
  readonly what: string;
}

/** What may mend a jump that a layer makes: it fades, or its keys are gone through smoothly instead of held. */
export function layerMends(scene: Scene, id: string): LayerMend[] {
  const layer = scene.lanes[id];
  if (layer?.kind !== 'layer') return [];
  const frames = Math.round(FADE_SECONDS * framesPerSecond(parseRate(scene.rate)));
  return [...fadedClips(scene, layer, frames), ...fadedSpan(layer, frames), ...smoothedKeys(layer)];
}

function fadedSpan({ id, name, span }: LayerLane, frames: number): LayerMend[] {
  if (!span) return [];
  const longer: LayerSpan = {
    ...span,
    fadeIn: Math.max(span.fadeIn, frames),
    fadeOut: Math.max(span.fadeOut, frames),
  };
  const edit = { type: 'change layer', layer: id, values: { span: longer } } as const;
  return [{ edit, what: `let ${name} come in and go out over ${frames} frames` }];
}

function fadedClips(scene: Scene, { name, segments }: LayerLane, frames: number): LayerMend[] {
  const edits = segments.flatMap((segment): Edit[] => {
    const { fade } = scene.segments[segment]!;
    const longer = { in: Math.max(fade.in, frames), out: Math.max(fade.out, frames) };
    return [{ type: 'change', segment, values: { fade: longer } }];
  });
  if (edits.length === 0) return [];
  const what = `let the clips of ${name} come in and go out over ${frames} frames`;
  return [{ edit: { type: 'several', label: `fades of ${name}`, edits }, what }];
}

function smoothedKeys(layer: LayerLane): LayerMend[] {
  const { id, name, keys, rootKeys, dialKeys } = layer;
  const joints = Object.entries(keys).flatMap(([joint, list]) =>
    list
      .filter((k) => k.curve === 'hold')
      .map((k): Edit => ({ type: 'key', layer: id, joint, key: { ...k, curve: 'flat' } })),
  );
  const root = Object.entries(rootKeys).flatMap(([curve, list]) =>
    list
      .filter((k) => k.curve === 'hold')
      .map((k): Edit => ({
        type: 'root key',
        layer: id,
        curve: curve as keyof LayerLane['rootKeys'],
        key: { ...k, curve: 'flat' },
      })),
  );
  const dials = Object.entries(dialKeys).flatMap(([dial, list]) =>
    list
      .filter((k) => k.curve === 'hold')
      .map((k): Edit => ({ type: 'dial key', layer: id, dial: dial as Dial, key: { ...k, curve: 'flat' } })),
  );
  const edits = [...joints, ...root, ...dials];
  if (edits.length === 0) return [];
  return [
    {
      edit: { type: 'several', label: `curves of ${name}`, edits },
      what: `go smoothly from key to key of ${name} instead of holding them`,
    },
  ];
}
