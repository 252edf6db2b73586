import type { CharacterPlan, Plan, Scene, Segment, SegmentPlan } from '@warper/core';
import { PLAIN_SEGMENT, SETTINGS, defined, framesPerSecond } from '@warper/core';
import { sourceOfId } from '../hash';
import type { MotionLibrary } from '../library';
import { OWN, range, time } from './schema';

type Json = Record<string, unknown>;

/** What a track is made from. */
interface Work {
  readonly scene: Scene;
  readonly library: MotionLibrary;
  /** Frames a second. */
  readonly rate: number;
}

/**
 * The arrangement of a scene as OpenTimelineIO: a track for each character, with clips by their source ranges, gaps, crossfades as
 * transitions about the middle of the overlap, speeds as time warps, and the scene's markers. What a clip loops and how a seam is fitted is
 * in the metadata.
 */
export function otioTimeline(scene: Scene, plan: Plan, library: MotionLibrary): Json {
  const rate = framesPerSecond(plan.rate);
  const work: Work = { scene, library, rate };
  return {
    OTIO_SCHEMA: 'Timeline.1',
    name: scene.name,
    metadata: { [OWN]: { version: 1, rate: scene.rate } },
    global_start_time: time(0, rate),
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      ...item('tracks'),
      markers: scene.markers.map((m) => ({
        OTIO_SCHEMA: 'Marker.2',
        name: m.name,
        color: 'RED',
        comment: '',
        marked_range: range(time(m.frame, rate), time(m.end === null ? 0 : m.end - m.frame, rate)),
        metadata: {},
      })),
      children: plan.characters.filter((c) => c.segments.length > 0).map((c) => track(c, work)),
    },
  };
}

/** What every item has. */
const item = (name: string, metadata: Json = {}): Json => ({
  name,
  metadata,
  source_range: null,
  effects: [],
  markers: [],
  enabled: true,
});

function track(plan: CharacterPlan, work: Work): Json {
  const { character, segments } = plan;
  const { start, footLock } = character;
  const body = work.library.bodyEntry(character.body)?.source.file;
  const children: Json[] = [];
  let at = 0;
  segments.forEach((segment, i) => {
    const cut = cutBefore(segments, i);
    if (cut > at) children.push(gap(cut - at, work.rate));
    const before = segments[i - 1];
    if (before && before.end > segment.start) children.push(transition(before, segment, cut, work));
    const next = segments[i + 1];
    const end = next && next.start < segment.end ? cutBefore(segments, i + 1) : segment.end;
    children.push(clip(segment, cut, end, i, work));
    at = end;
  });
  return {
    OTIO_SCHEMA: 'Track.1',
    ...item(character.name, { [OWN]: { body, start, footLock } }),
    kind: 'Video',
    children,
  };
}

/** Where the picture would change from a segment to the next: its start, or the middle of an overlap. */
function cutBefore(segments: readonly SegmentPlan[], i: number): number {
  const segment = defined(segments[i]);
  const overlap = (segments[i - 1]?.end ?? segment.start) - segment.start;
  return segment.start + Math.max(0, Math.floor(overlap / 2));
}

const gap = (frames: number, rate: number): Json => ({
  OTIO_SCHEMA: 'Gap.1',
  ...item('gap'),
  source_range: range(time(0, rate), time(frames, rate)),
});

const transition = (before: SegmentPlan, next: SegmentPlan, cut: number, { rate }: Work): Json => ({
  OTIO_SCHEMA: 'Transition.1',
  name: next.settings.seam.kind,
  transition_type: 'SMPTE_Dissolve',
  in_offset: time(cut - next.start, rate),
  out_offset: time(before.end - cut, rate),
  metadata: {},
});

/** What a cue says with fields of their own. */
const SAID = new Set(['in', 'out', 'repeat', 'loop', 'speed', 'length']);

/** The settings of a segment that a cue sheet has as well, where they are not the usual ones. */
const otherSettings = (segment: Segment): Json =>
  Object.fromEntries(
    Object.entries(SETTINGS).flatMap(([name, field]) => {
      const value: unknown = segment[name as keyof Segment];
      const usual: unknown = PLAIN_SEGMENT[name as keyof typeof PLAIN_SEGMENT];
      const isOther = JSON.stringify(value) !== JSON.stringify(usual);
      return 'cue' in field && field.cue && !SAID.has(name) && isOther ? [[name, value]] : [];
    }),
  );

function clip(plan: SegmentPlan, from: number, to: number, i: number, { scene, library, rate }: Work): Json {
  const segment = defined(scene.segments[plan.id]);
  const source = library.sources().find((s) => s.imported.source === sourceOfId(segment.clip));
  const own = defined(library.clip(segment.clip));
  const perFrame = (own.rate * plan.speed) / rate;
  const isOnly = (source?.imported.clips.length ?? 1) === 1;
  const { in: first, out, repeat, loop, speed, seam } = segment;
  const metadata = {
    ...(isOnly ? {} : { take: own.name }),
    span: [plan.start, plan.end],
    part: [first, out],
    repeat,
    loop,
    speed,
    length: segment.length,
    settings: otherSettings(segment),
    ...(i > 0 ? { seam: { kind: seam.kind, fit: seam.fit, nudge: seam.nudge } } : {}),
  };
  return {
    OTIO_SCHEMA: 'Clip.2',
    ...item(plan.name, { [OWN]: metadata }),
    source_range: range(time(first + (from - plan.start) * perFrame, own.rate), time(to - from, rate)),
    effects:
      plan.speed === 1
        ? []
        : [
            {
              OTIO_SCHEMA: 'LinearTimeWarp.1',
              name: 'speed',
              effect_name: 'LinearTimeWarp',
              time_scalar: plan.speed,
              metadata: {},
            },
          ],
    media_references: {
      DEFAULT_MEDIA: {
        OTIO_SCHEMA: 'ExternalReference.1',
        name: own.name,
        target_url: encodeURI(source?.file ?? own.name),
        available_range: range(time(0, own.rate), time(own.frames, own.rate)),
        available_image_bounds: null,
        metadata: {},
      },
    },
    active_media_reference_key: 'DEFAULT_MEDIA',
  };
}
