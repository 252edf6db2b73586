import { CHARACTER_FIELDS } from './character';
import type { Fields } from './fields';
import { withLaterFields } from './fields';
import { migrateKey } from './keys';
import { LANE_KINDS } from './lane';
import { MARKER_FIELDS } from './marker';
import { SCENE_FIELDS, SCENE_VERSION } from './scene';
import { JOIN_KINDS, PLAIN_CROSSFADE, SEAM_FIELDS } from './seam';
import { SEGMENT_FIELDS } from './segment';

type Json = Readonly<Record<string, unknown>>;

const isJson = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * A document of an older version brought up to date: what is shaped otherwise is made over, and fields that came later get the values
 * that their tables give them. What is no document of an older version comes back as it is.
 */
export function migrate(value: unknown): unknown {
  if (!isJson(value)) return value;
  const { version } = value;
  if (!Number.isInteger(version) || !((version as number) >= 1 && (version as number) < SCENE_VERSION))
    return value;
  const from = version as number;
  return {
    ...withLaterFields(value, SCENE_FIELDS, from),
    version: SCENE_VERSION,
    characters: each(value.characters, (c) => withLaterFields(c, CHARACTER_FIELDS, from)),
    lanes: each(value.lanes, (lane) => ({
      ...withLaterFields(lane, LANE_KINDS[lane.kind === 'layer' ? 'layer' : 'body'], from),
      ...(from < 8 && isJson(lane.keys) ? { keys: migrateKeys(lane.keys) } : {}),
    })),
    ...(Array.isArray(value.markers)
      ? {
          markers: value.markers.map((m: unknown) =>
            isJson(m) ? withLaterFields(m, MARKER_FIELDS, from) : m,
          ),
        }
      : {}),
    segments: each(value.segments, (s) => ({
      ...withLaterFields(s, SEGMENT_FIELDS, from),
      seam: migrateSeam(s.seam, from),
    })),
  };
}

function migrateSeam(value: unknown, version: number): unknown {
  if (!isJson(value)) return value;
  const seam = version < 5 ? seamWithKind(value) : value;
  const own: Fields = JOIN_KINDS[seam.kind as keyof typeof JOIN_KINDS] ?? {};
  return withLaterFields(seam, { ...SEAM_FIELDS, ...own }, version);
}

/**
 * Up to version 4 a seam had the fields of all kinds beside each other: frames to settle in, or null, where the segments share none, and
 * the curve of the crossfade where they do. With both, it is the cut that settles: a crossfade of that kind is a plain one, while
 * a crossfade without frames would be a bare cut.
 */
function seamWithKind({ settle = null, curve, inStep = false, ...placing }: Json): Json {
  if (settle !== null) return { ...placing, kind: 'settle', frames: settle };
  return { ...placing, kind: 'crossfade', curve: curve ?? PLAIN_CROSSFADE.curve, inStep };
}

const migrateKeys = (keys: Json): Json =>
  Object.fromEntries(
    Object.entries(keys).map(([joint, list]) => [
      joint,
      Array.isArray(list) ? list.map((key: unknown) => (isJson(key) ? migrateKey(key) : key)) : list,
    ]),
  );

/** The entries of a record, changed; what is none is left for the check to find. */
const each = (record: unknown, change: (entry: Json) => Json): unknown =>
  isJson(record)
    ? Object.fromEntries(
        Object.entries(record).map(([id, entry]) => [id, isJson(entry) ? change(entry) : entry]),
      )
    : record;
