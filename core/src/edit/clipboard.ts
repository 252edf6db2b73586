import type { Draft } from 'immer';
import { castDraft } from 'immer';
import Joi from 'joi';
import { InputError } from '../math/errors';
import { framesPerSecond, parseRate } from '../math/rate';
import type { Scene, Segment } from '../scene/scene';
import { checkSegment } from '../scene/schema';
import { lookup, requireUnusedId } from './lookup';
import type { ClipSource } from '../timeline/lane';
import { layOut } from '../timeline/lane';
import type { LaneEditor } from './laneEditor';

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
    const lane = scene.lanes[id]!;
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
      character: scene.characters[lane.character]!.name,
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

/**
 * Puts segments onto a lane at a frame, or behind the segment that it falls on, and pushes the rest on. They come in order
 * of their starts, as far apart as they were.
 *
 * @param rate of the scene that they come from; at another rate they keep their seconds
 */
export function pasteSegments(
  editor: LaneEditor,
  laneId: string,
  segments: readonly Segment[],
  at: number,
  rate: Scene['rate'],
): void {
  const lane = lookup(editor.scene.lanes, laneId, 'lane');
  for (const { id } of segments) requireUnusedId(editor.scene.segments, id, 'segment');
  const placed = editor.layOut(lane);
  const factor = framesPerSecond(parseRate(editor.scene.rate)) / framesPerSecond(parseRate(rate));
  const before = placed.findLast((p) => p.start <= at);
  const behind = before && before.end > at ? before : undefined;
  const after = placed.find((p) => p.start > (behind?.start ?? at));
  let end = 0;
  let last: Draft<Segment> | null = null;
  const block: Draft<Segment>[] = [];
  for (const copied of segments) {
    const segment = castDraft({ ...scaleSegment(copied, factor) }) as Draft<Segment>;
    const frames = editor.framesOf(segment);
    if (!last) {
      const joined = behind ? editor.join(lane, behind, segment, frames) : 0;
      segment.start = behind ? behind.end - joined : Math.max(0, Math.round(at));
    } else {
      const first = block[0]!;
      const wanted = Math.round(first.start + (copied.start - segments[0]!.start) * factor);
      segment.start = Math.max(wanted, last.start + 1, end - frames + 1);
    }
    end = segment.start + frames;
    last = segment;
    block.push(segment);
  }
  if (after && last) {
    const overlap = Math.min(after.overlap, Math.floor((end - last.start) / 2));
    editor.shift(lane, after, Math.max(0, end - overlap - after.start));
  }
  for (const segment of block) editor.insert(lane, segment);
  editor.heal(lane);
}

/** A segment but for its start, which keeps its seconds at so many times as many frames a second. */
export function scaleSegment(segment: Segment, factor: number): Segment {
  if (factor === 1) return segment;
  const scaled = (frames: number): number => Math.round(frames * factor);
  const { seam } = segment;
  return {
    ...segment,
    length: segment.length === null ? null : Math.max(1, scaled(segment.length)),
    hold: { start: scaled(segment.hold.start), end: scaled(segment.hold.end) },
    fade: { in: scaled(segment.fade.in), out: scaled(segment.fade.out) },
    marks: segment.marks
      .map((m) => ({ ...m, frame: Math.max(1, scaled(m.frame)) }))
      .filter((m, i, all) => m.frame !== all[i + 1]?.frame),
    seam: { ...seam, settle: seam.settle === null ? null : Math.max(1, scaled(seam.settle)) },
  };
}
