import { defined } from '../math/defined';
import Joi from 'joi';
import { InputError } from '../math/errors';
import { parseRate } from '../math/rate';
import type { Scene } from '../scene/scene';
import type { Segment } from '../scene/segment';
import { checkSegment } from '../scene/schema';
import type { ClipSource } from '../timeline/lane';
import { layOut } from '../timeline/lane';

/** Segments on their way from one place to another, by the lanes that they come from. */
export interface CopiedSegments {
  readonly format: 'warper-segments';
  readonly version: 1;
  readonly rate: Scene['rate'];
  readonly rows: readonly {
    /** The lane that they come from, and whose it is. */
    readonly lane: string;
    readonly character: string;
    readonly kind: 'body' | 'layer';
    /** Their starts count from the first of all that were copied. */
    readonly segments: readonly Segment[];
  }[];
}

const copiedSchema = Joi.object({
  format: Joi.valid('warper-segments'),
  version: Joi.valid(1).required(),
  rate: Joi.alternatives(Joi.number(), Joi.string()).required(),
  rows: Joi.array()
    .items({
      lane: Joi.string().required(),
      character: Joi.string().required(),
      kind: Joi.valid('body', 'layer').required(),
      segments: Joi.array().items(Joi.object()).min(1).required(),
    })
    .required(),
});

/** What is copied of a scene: the segments as they are, by lanes. */
export function copySegments(scene: Scene, ids: readonly string[], library: ClipSource): CopiedSegments {
  const wanted = new Set(ids);
  const rows = scene.laneOrder.flatMap((id) => {
    const lane = defined(scene.lanes[id]);
    const placed = layOut(scene, lane, library).filter((p) => wanted.has(p.segment.id));
    return placed.length > 0 ? [{ lane, placed }] : [];
  });
  const first = Math.min(...rows.flatMap((r) => r.placed.map((p) => p.start)));
  return {
    format: 'warper-segments',
    version: 1,
    rate: scene.rate,
    rows: rows.map(({ lane, placed }) => ({
      lane: lane.id,
      character: defined(scene.characters[lane.character]).name,
      kind: lane.kind,
      segments: placed.map((p) => ({ ...p.segment, start: p.start - first })),
    })),
  };
}

/**
 * Reads what was copied from text; null where it is something else.
 *
 * @throws InputError `scene` where it is of ours and damaged
 */
export function parseCopied(text: string): CopiedSegments | null {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return null;
  }
  const copied = value as CopiedSegments | null;
  if (copied?.format !== 'warper-segments') return null;
  const { error } = copiedSchema.validate(copied, { convert: false });
  if (error) {
    throw new InputError('scene', `What was copied is damaged, or of another version: ${error.message}.`, {
      place: { path: error.details[0]?.path.join('.') },
      hint: 'Copy it again.',
    });
  }
  parseRate(copied.rate);
  for (const row of copied.rows) row.segments.forEach((s, i) => checkSegment(s, ['rows', row.lane, `${i}`]));
  return copied;
}
