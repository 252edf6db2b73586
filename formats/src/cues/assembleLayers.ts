import type { Clip, Edit, KeyCurve, LayerLane, Look, PoseKey, Skeleton, ValueKey } from '@warper/core';
import { InputError, PLAIN_CONTACT, PLAIN_LAYER } from '@warper/core';
import { quatFromEuler } from '@warper/core/kernels';
import { partSegment } from './part';
import type { PlacedEdit } from './placedEdit';
import type { CueKey, CueLayer, CueRootKey } from './layerSheet';
import type { CueLook } from './lookSheet';
import { lookOf } from './lookSheet';
import type { CuePart } from './partSheet';
import type { CueCharacter } from './sheet';

/** The edits that add the layers of one character with their segments, bottom first. */
export async function layerEdits(
  layers: readonly CueLayer[],
  character: string,
  skeleton: Skeleton,
  path: string,
  open: (cue: CuePart, path: string) => Promise<Clip>,
): Promise<PlacedEdit[]> {
  const edits: PlacedEdit[] = [];
  for (const [i, layer] of layers.entries()) {
    const id = layerId(character, i);
    const where = `${path}.layers[${i}]`;
    edits.push({ path: where, edit: { type: 'add layer', layer: layerOf(layer, id, character, skeleton) } });
    for (const [j, cue] of (layer.cues ?? []).entries()) {
      const at = `${where}.cues[${j}]`;
      const part = partSegment(cue, await open(cue, at), `${id}s${j + 1}`, at);
      const segment = { ...part, fade: { in: cue.fadeIn ?? 0, out: cue.fadeOut ?? 0 } };
      edits.push({ path: at, edit: { type: 'place', lane: id, segment, at: cue.at, exactly: true } });
    }
  }
  return edits;
}

function layerOf(layer: CueLayer, id: string, character: string, skeleton: Skeleton): LayerLane {
  const weight = typeof layer.weight === 'number' ? ([[0, layer.weight]] as const) : (layer.weight ?? []);
  return {
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
    weightShape: layer.weightShape ?? PLAIN_LAYER.weightShape,
    reference: layer.reference ?? 'first',
    span: layer.span ? { end: null, fadeIn: 0, fadeOut: 0, ...layer.span } : null,
    keys: Object.fromEntries(
      Object.entries(layer.keys ?? {}).map(([bone, keys]) => [
        jointCalled(skeleton, bone),
        inOrder(keys.map(poseKey)),
      ]),
    ),
    rootKeys: Object.fromEntries(
      Object.entries(layer.root ?? {}).map(([curve, keys]) => [curve, inOrder(keys.map(rootKey))]),
    ),
    carriesOn: layer.carriesOn ?? PLAIN_LAYER.carriesOn,
    rootFeet: layer.feet ?? PLAIN_LAYER.rootFeet,
    dialKeys: Object.fromEntries(
      Object.entries(layer.dials ?? {}).map(([dial, keys = []]) => [dial, inOrder(keys.map(rootKey))]),
    ),
    contacts: (layer.contacts ?? []).map((contact) => ({ ...PLAIN_CONTACT, ...contact })),
    look: null,
    pair: null,
  };
}

/** The name of the joint that a sheet calls by its name or its role. */
function jointCalled({ names, roles }: Skeleton, bone: string): string {
  if (names.includes(bone)) return bone;
  return names[roles.findIndex((role) => role === bone)] ?? bone;
}

/**
 * The edits by which characters, cues and layers look at what they are to look at: whoever is looked at is there by then.
 *
 * @throws InputError `cues` where the sheet has no character of that name, or somebody would look at themselves
 */
export function lookEdits(characters: readonly CueCharacter[]): PlacedEdit[] {
  const names = characters.map((c) => c.name);
  return characters.flatMap(({ look, cues = [], layers = [] }, c): PlacedEdit[] => {
    const id = characterId(c);
    const edits: PlacedEdit[] = [];
    const add = (asked: CueLook | undefined, path: string, edit: (look: Look) => Edit): void => {
      if (!asked) return;
      edits.push({ path, edit: edit(lookOf(asked, names, c, characterId, path)) });
    };
    const path = `characters[${c}]`;
    add(look, `${path}.look`, (to) => ({ type: 'change character', character: id, values: { look: to } }));
    cues.forEach((cue, i) =>
      add(cue.look, `${path}.cues[${i}].look`, (to) => ({
        type: 'change',
        segment: cueId(id, i),
        values: { look: to },
      })),
    );
    layers.forEach((layer, i) =>
      add(layer.look, `${path}.layers[${i}].look`, (to) => ({
        type: 'change layer',
        layer: layerId(id, i),
        values: { look: to },
      })),
    );
    return edits;
  });
}

/**
 * The edits that link layers with their other sides.
 *
 * @throws InputError `cues` where the character has no layer of that name
 */
export const pairEdits = (characters: readonly CueCharacter[]): PlacedEdit[] =>
  characters.flatMap(({ layers = [] }, c) =>
    layers.flatMap(({ otherSideOf }, i): PlacedEdit[] => {
      if (otherSideOf === undefined) return [];
      const path = `characters[${c}].layers[${i}].otherSideOf`;
      const other = layers.findIndex((l, k) => k !== i && l.name === otherSideOf);
      if (other < 0)
        throw new InputError('cues', `The character has no other layer ${otherSideOf}.`, {
          place: { path },
          hint: `Its layers are ${layers.map((l) => l.name).join(', ')}.`,
        });
      const id = characterId(c);
      return [{ path, edit: { type: 'pair layers', layer: layerId(id, other), with: layerId(id, i) } }];
    }),
  );

/** The ids of what a sheet makes, by its place in the sheet. */
export const characterId = (index: number): string => `c${index + 1}`;
export const cueId = (character: string, index: number): string => `${character}s${index + 1}`;
const layerId = (character: string, index: number): string => `${character}layer${index + 1}`;

const inOrder = <K extends { readonly frame: number }>(keys: K[]): K[] =>
  keys.sort((a, b) => a.frame - b.frame);

/** A key that is given a slope goes by it. */
const curveOf = (curve: KeyCurve = 'smooth', tangent?: unknown): KeyCurve =>
  tangent !== undefined && curve === 'smooth' ? 'free' : curve;

const rootKey = ({ frame, value, curve, tangent, into }: CueRootKey): ValueKey => ({
  frame,
  value,
  curve: curveOf(curve, tangent),
  tangent: tangent ?? null,
  into: into ?? null,
});

const RADIANS = Math.PI / 180;

function poseKey(key: CueKey): PoseKey {
  const [x, y, z] = key.turn.map((v) => v * RADIANS) as [number, number, number];
  const [qx, qy, qz, qw] = quatFromEuler(x, y, z, [0, 1, 2], new Float64Array(4), 0) as unknown as [
    number,
    number,
    number,
    number,
  ];
  const turns = (degrees: CueKey['turn'] | undefined): PoseKey['tangent'] =>
    degrees ? (degrees.map((v) => v * RADIANS) as [number, number, number]) : null;
  return {
    frame: key.frame,
    rotation: [qx, qy, qz, qw],
    curve: curveOf(key.curve, key.tangent),
    tangent: turns(key.tangent),
    into: turns(key.into),
  };
}
