import { keyFrames } from '../../layers/keyLists';
import type { AlternateScope } from '../../scene/alternate';
import { isEqual } from '../../scene/differences';
import { segmentsOfGroup } from '../../scene/group';
import type { Lane, LayerLane } from '../../scene/lane';
import { framesPerSecond, parseRate } from '../../math/rate';
import type { Scene } from '../../scene/scene';
import { soundSeconds } from '../../scene/sound';
import type { ClipSource, Placed } from '../../timeline/lane';
import { layOut } from '../../timeline/lane';

/** Where something of a scene is: frames [from, to) of characters; null for what is nobody's. */
export interface Place {
  readonly characters: readonly string[] | null;
  readonly from: number;
  readonly to: number;
}

/** Whether a scope and a place share a frame of somebody. */
export const isWithin = (scope: AlternateScope, { characters, from, to }: Place): boolean =>
  from < scope.to &&
  to > scope.from &&
  (scope.characters === null || (characters?.some((c) => scope.characters?.includes(c)) ?? false));

/** Whether a segment differs between two versions of a scene only in when it begins, which follows from what lies before it. */
export const isOnlyMoved = (a: Scene, b: Scene, segment: string): boolean => {
  const [one, other] = [a.segments[segment], b.segments[segment]];
  return !!one && !!other && (one === other || isEqual({ ...one, start: 0 }, { ...other, start: 0 }));
};

/** The frames of a segment that are its own: seams are shared out by halves, so that neighbours never share a frame. */
export interface OwnSpan {
  readonly id: string;
  readonly from: number;
  readonly to: number;
}

/** The segments of a lane with the frames that are theirs, in order. */
export const ownSpans = (placed: readonly Placed[]): OwnSpan[] =>
  placed.map(({ segment, start, end, overlap }, i) => {
    const from = start + Math.floor(overlap / 2);
    return {
      id: segment.id,
      from,
      to: Math.max(from + 1, end - Math.ceil((placed[i + 1]?.overlap ?? 0) / 2)),
    };
  });

/** Finds where things of a scene are; what was laid out once is kept as long as the finder. */
export class PlaceFinder {
  private readonly spans = new Map<string, readonly OwnSpan[]>();

  constructor(
    readonly scene: Scene,
    private readonly library: ClipSource,
  ) {}

  /** The lane that a segment is on. */
  laneOf(segment: string): Lane | undefined {
    return Object.values(this.scene.lanes).find((l) => l.segments.includes(segment));
  }

  /** The segments of a lane with the frames that are theirs. */
  spansOf(lane: Lane): readonly OwnSpan[] {
    const known = this.spans.get(lane.id);
    if (known) return known;
    const spans = ownSpans(layOut(this.scene, lane, this.library));
    this.spans.set(lane.id, spans);
    return spans;
  }

  /**
   * Where something is, by its id; none for what is nowhere in particular: a character, a camera, a body lane.
   *
   * @param frames frames that are looked at of it, where it has its own time all along: keys of a layer or of a camera
   */
  placesOf(id: string, frames: readonly number[]): Place[] {
    const { scene } = this;
    const at = (characters: Place['characters']): Place[] =>
      frames.map((frame) => ({ characters, from: frame, to: frame + 1 }));
    if (Object.hasOwn(scene.segments, id)) return this.segmentPlace(id);
    const lane = scene.lanes[id];
    if (lane?.kind === 'layer') {
      const who = [lane.character];
      return frames.length > 0 ? at(who) : [{ characters: who, ...this.framesOfLayer(lane) }];
    }
    if (Object.hasOwn(scene.groups, id))
      return segmentsOfGroup(scene, id).flatMap((s) => this.segmentPlace(s));
    const tether = scene.tethers[id];
    if (tether)
      return [{ characters: [tether.child, tether.parent], from: tether.start, to: tether.end ?? Infinity }];
    if (Object.hasOwn(scene.cameras, id)) return at(null);
    const marker = scene.markers.find((m) => m.id === id);
    if (marker) return [{ characters: null, from: marker.frame, to: marker.end ?? marker.frame + 1 }];
    const filmed = scene.shots[id] ?? scene.lines[id];
    if (filmed) return [{ characters: null, from: filmed.start, to: filmed.end }];
    const sound = scene.sounds[id];
    if (!sound) return [];
    const length = Math.ceil(soundSeconds(sound) * framesPerSecond(parseRate(scene.rate)));
    return [{ characters: null, from: sound.start, to: sound.start + Math.max(1, length) }];
  }

  /** The frames in which a layer does something: those of its span, else of its segments and keys; one key holds for ever. */
  private framesOfLayer(layer: LayerLane): { readonly from: number; readonly to: number } {
    const { span } = layer;
    if (span) return { from: span.start, to: span.end ?? Infinity };
    const keys = keyFrames(layer);
    const segments = this.spansOf(layer);
    if (keys.length === 1 || keys.length + segments.length === 0) return { from: -Infinity, to: Infinity };
    return {
      from: Math.min(...keys.slice(0, 1), ...segments.slice(0, 1).map((s) => s.from)),
      to: Math.max(...keys.slice(-1).map((k) => k + 1), ...segments.slice(-1).map((s) => s.to)),
    };
  }

  private segmentPlace(segment: string): Place[] {
    const lane = this.laneOf(segment);
    const span = lane && this.spansOf(lane).find((s) => s.id === segment);
    if (span) return [{ characters: [lane.character], from: span.from, to: span.to }];
    // Switched off: where it waits.
    const start = this.scene.segments[segment]?.start;
    return lane && start !== undefined ? [{ characters: [lane.character], from: start, to: start + 1 }] : [];
  }
}
