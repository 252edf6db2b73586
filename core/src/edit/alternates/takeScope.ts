import { InputError } from '../../math/errors';
import type { AlternateScope } from '../../scene/alternate';
import { differences, isEqual } from '../../scene/differences';
import type { Lane } from '../../scene/lane';
import type { Scene } from '../../scene/scene';
import type { Segment } from '../../scene/segment';
import type { ClipSource } from '../../timeline/lane';
import { layOut } from '../../timeline/lane';
import { PlaceFinder, isWithin } from './places';

/** A version of a scene with what may differ in it; null the whole. */
export interface Side {
  readonly scene: Scene;
  readonly scope: AlternateScope | null;
}

/** What is put down by itself, with frames of its own, and is taken over as a whole. */
const PARTS = ['tethers', 'shots', 'sounds', 'lines'] as const;

/**
 * A scene with all that another version has in its scope in place of what it has there itself: the run of segments of each character, the
 * joins at both ends of it, and what else lies there. What follows is moved along.
 *
 * @throws InputError `edit` where what is in the scope or next to it was brought elsewhere, or is not there
 */
export function takeScope(into: Side, from: Side, library: ClipSource): Scene {
  if (!from.scope) return from.scene;
  const taking = new Taking(into, from, from.scope, library);
  for (const lane of Object.values(from.scene.lanes)) taking.takeRun(lane);
  taking.takeRest();
  return taking.scene;
}

class Taking {
  scene: Scene;
  private readonly there: PlaceFinder;
  private readonly here: PlaceFinder;
  /** Frames by which what is taken of a character comes later than where it is taken from. */
  private readonly shifts = new Set<number>();

  constructor(
    private readonly into: Side,
    private readonly from: Side,
    private readonly scope: AlternateScope,
    private readonly library: ClipSource,
  ) {
    this.scene = into.scene;
    this.here = new PlaceFinder(into.scene, library);
    this.there = new PlaceFinder(from.scene, library);
  }

  /** Takes the segments of a lane that are in the scope. */
  takeRun(lane: Lane): void {
    if (lane.kind !== 'body' || !(this.scope.characters?.includes(lane.character) ?? true)) return;
    const within = (id: string): boolean => this.isThere(id);
    const first = lane.segments.findIndex(within);
    const last = lane.segments.findLastIndex(within);
    const own = this.scene.lanes[lane.id];
    if (first < 0 || !own) return;
    const run = lane.segments.slice(first, last + 1);
    const [before, after] = [lane.segments[first - 1], lane.segments[last + 1]];
    const [start, end] = [this.placeOf(before, own, -1), this.placeOf(after, own, own.segments.length)];
    if (start >= end) throw this.refusal(before ?? after ?? '');
    const replaced = own.segments.slice(start + 1, end);
    const astray = run.find((id) => this.scene.segments[id] && !replaced.includes(id));
    if (astray !== undefined) throw this.refusal(astray);
    const segments: Record<string, Segment> = { ...this.scene.segments };
    for (const id of replaced) delete segments[id];
    if (before !== undefined) segments[before] = this.besideScope(before);
    const shift =
      this.endIn(this.scene, segments, before, own) -
      this.endIn(this.from.scene, this.from.scene.segments, before, lane);
    this.shifts.add(shift);
    for (const id of run) put(segments, this.from.scene.segments[id], shift);
    if (after !== undefined) {
      const taken = this.besideScope(after);
      const moved = (this.from.scene.segments[after]?.start ?? 0) + shift - taken.start;
      for (const id of own.segments.slice(end)) put(segments, id === after ? taken : segments[id], moved);
    }
    const list = [...own.segments.slice(0, start + 1), ...run, ...own.segments.slice(end)];
    this.scene = {
      ...this.scene,
      segments,
      lanes: { ...this.scene.lanes, [lane.id]: { ...own, segments: list } },
    };
  }

  /** Takes layers with their segments, tethers, and, where the scope is one of everything, what is filmed, heard, said and marked. */
  takeRest(): void {
    const found = differences(this.into.scene, this.from.scene).map(
      ({ path: [part, id] }) => `${part} ${id}`,
    );
    for (const entry of new Set(found)) {
      const [part = '', id = ''] = entry.split(' ');
      if (part === 'lanes') this.takeLayer(id);
      else if (PARTS.some((p) => p === part) && this.isAnywhere(id))
        this.takePart(part as (typeof PARTS)[number], id);
    }
    const mine = this.scene.markers.filter((m) => !this.isAnywhere(m.id));
    const markers = [...mine, ...this.from.scene.markers.filter((m) => this.isAnywhere(m.id))];
    markers.sort((a, b) => a.frame - b.frame);
    if (!isEqual(markers, this.scene.markers)) {
      this.requireInPlace();
      this.scene = { ...this.scene, markers };
    }
    this.tidy();
  }

  private takeLayer(id: string): void {
    const [own, taken] = [this.scene.lanes[id], this.from.scene.lanes[id]];
    if ((own ?? taken)?.kind !== 'layer' || !this.isAnywhere(id)) return;
    this.requireInPlace();
    const { lanes, segments } = this.scene;
    const nextSegments = { ...segments };
    for (const s of own?.segments ?? []) delete nextSegments[s];
    for (const s of taken?.segments ?? []) put(nextSegments, this.from.scene.segments[s], 0);
    const { [id]: _, ...others } = lanes;
    this.scene = {
      ...this.scene,
      segments: nextSegments,
      lanes: taken ? { ...others, [id]: taken } : others,
    };
  }

  private takePart(part: (typeof PARTS)[number], id: string): void {
    this.requireInPlace();
    const { [id]: _, ...others } = this.scene[part] as Readonly<Record<string, unknown>>;
    const taken: unknown = this.from.scene[part][id];
    this.scene = { ...this.scene, [part]: taken ? { ...others, [id]: taken } : others };
  }

  /** Puts the order of lanes and the members of groups right after what came and went. */
  private tidy(): void {
    const { lanes, segments, groups } = this.scene;
    const fresh = this.from.scene.laneOrder.filter((l) => lanes[l] && !this.scene.laneOrder.includes(l));
    const laneOrder = this.scene.laneOrder.filter((l) => lanes[l]);
    for (const id of fresh) {
      const last = laneOrder.findLastIndex((l) => lanes[l]?.character === lanes[id]?.character);
      laneOrder.splice(last + 1, 0, id);
    }
    const kept = Object.entries(groups).flatMap(([id, group]) => {
      const members = group.members.filter((m) => segments[m] ?? groups[m]);
      return members.length > 0
        ? [[id, members.length < group.members.length ? { ...group, members } : group]]
        : [];
    });
    this.scene = { ...this.scene, laneOrder, groups: Object.fromEntries(kept) as Scene['groups'] };
  }

  /** A segment next to the scope: as it joins what is in it, unless it is the scene's own too. */
  private besideScope(id: string): Segment {
    const [own, taken] = [this.into.scene.segments[id], this.from.scene.segments[id]];
    if (!own || !taken) throw this.refusal(id);
    const { scope } = this.into;
    const isOwn = scope !== null && this.here.placesOf(id, []).some((p) => isWithin(scope, p));
    return isOwn ? own : { ...taken, start: own.start };
  }

  /** Where a segment that is next to the scope is on the scene's own lane. */
  private placeOf(id: string | undefined, own: Lane, without: number): number {
    if (id === undefined) return without;
    const place = own.segments.indexOf(id);
    if (place < 0) throw this.refusal(id);
    return place;
  }

  /** The frame after a segment; 0 without one. */
  private endIn(scene: Scene, segments: Scene['segments'], id: string | undefined, lane: Lane): number {
    if (id === undefined) return 0;
    const alone = { ...lane, segments: [id] };
    const [placed] = layOut({ ...scene, segments }, alone, this.library);
    return placed?.end ?? segments[id]?.start ?? 0;
  }

  private isThere(id: string): boolean {
    return this.there.placesOf(id, []).some((place) => isWithin(this.scope, place));
  }

  /** Whether something is in the scope, in the version that is taken from or, where that has none of it, here. */
  private isAnywhere(id: string): boolean {
    if (this.there.placesOf(id, [0]).length > 0) return this.isThere(id);
    const { scope } = this.into;
    return this.here
      .placesOf(id, [])
      .some((p) => isWithin(this.scope, p) || (scope !== null && isWithin(scope, p)));
  }

  /** What has frames of its own is only taken where it stays at them. */
  private requireInPlace(): void {
    if ([...this.shifts].every((s) => s === 0)) return;
    throw new InputError('edit', 'What may differ begins at another frame than in the scene in hand.', {
      hint: 'Swap to it, or keep it only.',
    });
  }

  private refusal(id: string): InputError {
    const name = this.from.scene.segments[id]?.name ?? this.scene.segments[id]?.name ?? 'a segment';
    return new InputError(
      'edit',
      `${name} is elsewhere in the scene in hand, so that it cannot be told what to put where.`,
      {
        hint: 'Swap to it, or keep it only.',
      },
    );
  }
}

function put(segments: Record<string, Segment>, segment: Segment | undefined, shift: number): void {
  if (segment) segments[segment.id] = shift === 0 ? segment : { ...segment, start: segment.start + shift };
}
