import { isEqual } from '../../scene/differences';
import type { Alternate, AlternateScope } from '../../scene/alternate';
import type { Scene } from '../../scene/scene';
import type { ClipSource } from '../../timeline/lane';
import type { Edit } from '../edit';
import { followScope } from './followScope';
import { PlaceFinder, isOnlyMoved, isWithin } from './places';

/** Edits of what all alternates share: the scene's name and time, and what is known of its clips and bodies. */
const OF_ALL: ReadonlySet<Edit['type']> = new Set<Edit['type']>([
  'rename scene',
  'rate',
  'range',
  'judge',
  'ignore',
  'limits',
  'steps',
  'pick joint',
]);

/** Edits of the join before a segment, which is as much that of the segment before. */
const OF_SEAMS: ReadonlySet<Edit['type']> = new Set<Edit['type']>([
  'seam',
  'join',
  'overlap',
  'shift seam',
  'widen seam',
]);

/** What an edit speaks of. */
interface Named {
  /** All that is text in it; ids are among it. */
  readonly words: ReadonlySet<string>;
  readonly frames: readonly number[];
}

function namedBy(change: Edit): Named {
  const words = new Set<string>();
  const frames: number[] = [];
  const read = (value: unknown, key: string): void => {
    if (typeof value === 'string') words.add(value);
    else if (typeof value === 'number') {
      if (key === 'frame' || key === 'frames') frames.push(value);
    } else if (Array.isArray(value)) for (const item of value) read(item, key);
    else if (typeof value === 'object' && value !== null)
      for (const [name, item] of Object.entries(value)) read(item, name);
  };
  read(change, '');
  return { words, frames };
}

/** The scenes that an edit stands between, for the question whether it is also one of another alternate. */
export class EditReach {
  private readonly before: PlaceFinder;
  private readonly after: PlaceFinder;
  private followed: AlternateScope | null = null;

  constructor(
    before: Scene,
    after: Scene,
    private readonly inHand: AlternateScope | null,
    private readonly library: ClipSource,
  ) {
    this.before = new PlaceFinder(before, library);
    this.after = new PlaceFinder(after, library);
  }

  /**
   * Whether an edit is carried out in another alternate too. It is not where it is about what lies in the scope of the one in hand; nor
   * about what lies in that of the other one and differs there already. What has no place in time and is nobody's, and what lies elsewhere,
   * is shared.
   *
   * @param version the other alternate as it was before the edit
   */
  reaches(change: Edit, { scope }: Pick<Alternate, 'scope'>, version: Scene): boolean {
    if (OF_ALL.has(change.type)) return true;
    const { inHand } = this;
    if (!inHand) return false;
    const { words, frames } = namedBy(change);
    const ids = OF_SEAMS.has(change.type) ? this.withBefore(words) : words;
    const other = new PlaceFinder(version, this.library);
    for (const id of ids) {
      if (this.isIn(inHand, id, frames)) return false;
      const differs = !isAlike(this.before.scene, version, id);
      if (differs && (!scope || isPlaced(other, scope, id, frames))) return false;
    }
    return true;
  }

  /** Whether something of the scene in hand is in its scope; what is new is looked for in the scene as it became. */
  private isIn(scope: AlternateScope, id: string, frames: readonly number[]): boolean {
    if (isKnown(this.before, id)) return isPlaced(this.before, scope, id, frames);
    // A new layer is for what it was added at, however long it is.
    return this.after.placesOf(id, []).some((place) => isWithin(this.scopeAfter(scope), place));
  }

  /** The scope where what it holds has come to be: what was put down behind that is beside it. */
  private scopeAfter(scope: AlternateScope): AlternateScope {
    const scenes = { before: this.before.scene, after: this.after.scene };
    return (this.followed ??= followScope(scope, scenes, false, this.library));
  }

  /** Names and the segments that come before those among them. */
  private withBefore(words: ReadonlySet<string>): ReadonlySet<string> {
    const all = new Set(words);
    for (const id of words) {
      const lane = this.before.laneOf(id);
      const previous = lane?.segments[lane.segments.indexOf(id) - 1];
      if (previous !== undefined) all.add(previous);
    }
    return all;
  }
}

const hasLayer = (scene: Scene, id: string): boolean => scene.lanes[id]?.kind === 'layer';

const isKnown = (finder: PlaceFinder, id: string): boolean => finder.placesOf(id, [0]).length > 0;

/** Whether something lies in a scope; a layer that was there all along does only where it goes on nowhere else. */
function isPlaced(
  finder: PlaceFinder,
  scope: AlternateScope,
  id: string,
  frames: readonly number[],
): boolean {
  const whole = hasLayer(finder.scene, id) && frames.length === 0;
  return finder
    .placesOf(id, frames)
    .some(
      (place) => isWithin(scope, place) && (!whole || (place.from >= scope.from && place.to <= scope.to)),
    );
}

/** Whether something is the same in two alternates but for when it begins, which follows from what lies before it. */
function isAlike(a: Scene, b: Scene, id: string): boolean {
  if (a.segments[id] && b.segments[id]) return isOnlyMoved(a, b, id);
  for (const part of [
    'segments',
    'lanes',
    'groups',
    'tethers',
    'cameras',
    'shots',
    'sounds',
    'lines',
  ] as const) {
    const [x, y]: [unknown, unknown] = [a[part][id], b[part][id]];
    if (x !== y && !isEqual(x, y)) return false;
  }
  const [m, n] = [a, b].map((s) => s.markers.find((marker) => marker.id === id));
  return isEqual(m, n);
}
