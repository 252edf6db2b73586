import { castDraft, freeze } from 'immer';
import Joi from 'joi';
import { DIALS } from '../../clip/dials';
import type { PoseKey, ValueKey } from '../../scene/keys';
import { ROOT_CURVES, poseKey, valueKey } from '../../scene/keys';
import type { LayerLane } from '../../scene/lane';
import { defineEdit, layerName, rule } from '../defineEdit';
import { requireLayer } from '../lookup';

/** Puts whole lists of keys in the place of a layer's own, as curves are edited; an empty list takes them away. */
export interface LayerKeys {
  readonly type: 'layer keys';
  readonly layer: string;
  /** What is done, for its name in undo, such as "scaling of keys". */
  readonly label: string;
  /** Key poses by joint. */
  readonly keys?: Readonly<Record<string, readonly PoseKey[]>>;
  readonly rootKeys?: LayerLane['rootKeys'];
  readonly dialKeys?: LayerLane['dialKeys'];
  readonly weight?: LayerLane['weight'];
  readonly weightShape?: LayerLane['weightShape'];
}

/**
 * A list of keys by a rule. Keys that are frozen were checked when they came into the document, so that a drag of one among
 * ten thousand checks that one.
 */
const keyList = (key: Joi.Schema): Joi.Schema =>
  Joi.any().custom((list: unknown, helpers) => {
    if (!Array.isArray(list) || list.length > 100_000)
      return helpers.message({ custom: '{{#label}} must be a list of up to 100000 keys' });
    let last = -Infinity;
    for (const entry of list as { frame: number }[]) {
      if (!Object.isFrozen(entry)) {
        const { error } = key.validate(entry, { convert: false });
        if (error) return helpers.message({ custom: `{{#label}}: ${error.message}` });
      }
      if (entry.frame <= last) return helpers.message({ custom: '{{#label}} must be in order of frames' });
      last = entry.frame;
    }
    return list;
  });

const weightPoint = Joi.array().ordered(Joi.number().required(), Joi.number().min(0).max(1).required());

/** Points of a weight; frozen ones are from the document. */
const weightPoints = Joi.any().custom((points: unknown, helpers) => {
  if (!Array.isArray(points) || points.length > 10_000)
    return helpers.message({ custom: '{{#label}} must be a list of up to 10000 points' });
  for (const point of points as unknown[]) {
    if (Object.isFrozen(point)) continue;
    const { error } = weightPoint.validate(point, { convert: false });
    if (error) return helpers.message({ custom: `{{#label}}: ${error.message}` });
  }
  return points;
});

export const layerKeys = defineEdit<LayerKeys>({
  type: 'layer keys',
  schema: {
    layer: rule.id,
    label: rule.name,
    keys: Joi.object().pattern(Joi.string().max(200), keyList(poseKey)),
    rootKeys: Joi.object(Object.fromEntries(ROOT_CURVES.map((name) => [name, keyList(valueKey)]))),
    dialKeys: Joi.object(Object.fromEntries(Object.keys(DIALS).map((name) => [name, keyList(valueKey)]))),
    weight: weightPoints,
    weightShape: Joi.valid('linear', 'smooth'),
  },
  apply: ({ scene }, { layer: id, keys = {}, rootKeys = {}, dialKeys = {}, weight, weightShape }) => {
    const layer = requireLayer(scene, id);
    put(layer.keys, keys);
    put(layer.rootKeys, rootKeys);
    put(layer.dialKeys, dialKeys);
    if (weight) layer.weight = castDraft(frozen(weight));
    if (weightShape) layer.weightShape = weightShape;
  },
  describe: ({ layer, label }, scene) => `${label} of the layer ${layerName(scene, layer)}`,
});

function put(
  table: object,
  lists: Readonly<Record<string, readonly (PoseKey | ValueKey)[] | undefined>>,
): void {
  const own = table as Record<string, unknown>;
  for (const [name, list] of Object.entries(lists)) {
    if (list && list.length > 0) own[name] = frozen(list);
    else delete own[name];
  }
}

/** A list of its own that is frozen with all that is on it, so that nobody looks through ten thousand keys for what has changed in them. */
function frozen<T extends object>(list: readonly T[]): readonly T[] {
  const own = Object.isFrozen(list) ? list : [...list];
  for (const key of own) if (!Object.isFrozen(key)) freeze(key, true);
  return Object.freeze(own);
}

/** The edit that takes one version of a layer to another which differs in its keys only; null where none does. */
export function keysEdit(before: LayerLane, after: LayerLane, label: string): LayerKeys | null {
  const changed = <L>(
    a: Readonly<Partial<Record<string, L>>>,
    b: Readonly<Partial<Record<string, L>>>,
  ): Record<string, L | readonly never[]> =>
    Object.fromEntries(
      [...new Set([...Object.keys(a), ...Object.keys(b)])]
        .filter((name) => a[name] !== b[name])
        .map((name) => [name, b[name] ?? []]),
    );
  const edit: LayerKeys = {
    type: 'layer keys',
    layer: before.id,
    label,
    keys: changed(before.keys, after.keys),
    rootKeys: changed(before.rootKeys as Record<string, readonly ValueKey[]>, after.rootKeys),
    dialKeys: changed(before.dialKeys as Record<string, readonly ValueKey[]>, after.dialKeys),
    ...(before.weight === after.weight ? {} : { weight: after.weight }),
    ...(before.weightShape === after.weightShape ? {} : { weightShape: after.weightShape }),
  };
  const isSame =
    [edit.keys, edit.rootKeys, edit.dialKeys].every((lists) => Object.keys(lists ?? {}).length === 0) &&
    edit.weight === undefined &&
    edit.weightShape === undefined;
  return isSame ? null : edit;
}
