import type { Clip } from '../clip/clip';
import type { Library } from '../compile/compile';
import { compile } from '../compile/compile';
import type { Grade } from '../continuity/grade';
import type { ContinuityItem } from '../continuity/report';
import { continuityReport } from '../continuity/report';
import { applyEdit } from '../edit/edit';
import type { Edit } from '../edit/edit';
import type { Scene } from '../scene/scene';
import type { Thresholds } from '../scene/thresholds';
import { findLoops } from '../loops/findLoops';
import { parseRate } from '../math/rate';
import { PLAIN_STEP } from '../scene/seam';
import { requireClip, stepFrames } from '../timeline/lane';
import { isGivenJoin, neighboursOf } from './neighbours';
import type { Bridge } from './bridges';
import { bridgesSteps } from './bridges';
import { chooseJoin } from './chooseJoin';
import { layerMends } from './mendLayer';
import { meetingMends, reachMends, sunkMends, tetherMends } from './mendStaging';

/** What has to be known of an item to mend it. */
export type MendableItem = Pick<
  ContinuityItem,
  'id' | 'kind' | 'segment' | 'character' | 'name' | 'measure' | 'value' | 'grade'
>;

/** What makes something that was measured better, before it is taken. */
export interface Mend {
  readonly edit: Edit;
  /** What it does, in words: "take a step over 24 frames". */
  readonly what: string;
  /** What would be its worst measure then, and how that would be judged. */
  readonly measure: keyof Thresholds;
  readonly value: number;
  readonly grade: Grade;
  /** The clip that is put between, and by how many seconds that makes the scene longer; null where it mends without. */
  readonly bridge: { readonly clip: string; readonly name: string; readonly seconds: number } | null;
}

const GRADES: readonly Grade[] = ['good', 'watch', 'bad'];

/** Bridges, and parts of a clip, that are offered at most. */
const OFFERED = 3;

/**
 * Finds what mends an item of the continuity report; yields the finished share.
 *
 * @param clips what a bad seam may be bridged with
 * @returns best first; none where nothing makes it better
 */
export function* mendSteps(
  scene: Scene,
  item: MendableItem,
  clips: readonly Clip[],
  library: Library,
  freshId: () => string,
): Generator<number, readonly Mend[]> {
  if (item.kind === 'seam') return yield* mendSeam(scene, item, clips, library, freshId);
  yield 0.3;
  const mends = mendsOf(scene, item, library).map(({ edit, what }): Mend => {
    const current = applyEdit(scene, edit, library);
    const after = worstOf(continuityReport(compile(current, library)).filter((i) => isSame(i, item)));
    const [value, grade] = [after?.value ?? 0, after?.grade ?? 'good'];
    return { edit, what, measure: item.measure, value, grade, bridge: null };
  });
  const better = mends.filter((m) => Math.abs(m.value) < Math.abs(item.value));
  return better.sort((a, b) => rankOf(a) - rankOf(b)).slice(0, OFFERED);
}

/** Whether an item tells of what another one told of: bodies in each other may be so at another frame. */
const isSame = (a: ContinuityItem, b: MendableItem): boolean =>
  a.kind === 'meeting' ? a.id.replace(/:[^:]*$/, '') === b.id.replace(/:[^:]*$/, '') : a.id === b.id;

const worstOf = (items: readonly ContinuityItem[]): ContinuityItem | undefined =>
  [...items].sort((a, b) => Math.abs(b.value) - Math.abs(a.value))[0];

const rankOf = (mend: Mend): number => GRADES.indexOf(mend.grade);

/** What may mend an item that is no seam. */
function mendsOf(scene: Scene, item: MendableItem, library: Library): Pick<Mend, 'edit' | 'what'>[] {
  switch (item.kind) {
    case 'float':
    case 'tread':
      return [raised(scene, item)];
    case 'level':
      return [heightMatched(item)];
    case 'loop':
      return loopsClosed(scene, item, library);
    case 'layer':
      return layerMends(scene, item.id.slice('layer:'.length));
    case 'let go':
      return steppedAt(scene, item, library);
    case 'tether':
      return tetherMends(scene, item.id.slice('tether:'.length));
    case 'reach':
      return reachMends(scene, item.id.slice('reach:'.length), library);
    case 'sunk':
      return sunkMends(scene, item);
    case 'meeting':
      return meetingMends(scene, item, library);
    default:
      return [locked(item)];
  }
}

function* mendSeam(
  ...[scene, item, clips, library, freshId]: Parameters<typeof mendSteps>
): Generator<number, readonly Mend[]> {
  const limits = scene.segments[item.segment]?.seam.limits ?? scene.choice;
  const choice = chooseJoin(scene, item.segment, library, limits);
  const isBetter = choice && GRADES.indexOf(choice.measures.grade) < GRADES.indexOf(item.grade);
  const chosen: Mend[] = isBetter
    ? [
        {
          edit: choice.edit,
          what: describe(choice.edit.values.chosen?.why ?? ''),
          measure: choice.measures.worst,
          value: choice.measures[choice.measures.worst],
          grade: choice.measures.grade,
          bridge: null,
        },
      ]
    : [];
  if (chosen[0]?.grade === 'good' || !limits.bridges) return chosen;
  const bridges = yield* bridgesSteps(scene, item.segment, clips, library, freshId, limits);
  return [...bridges.slice(0, OFFERED).map(bridgeMend), ...chosen].sort((a, b) => rankOf(a) - rankOf(b));
}

function bridgeMend({ clip, edit, seconds, measures }: Bridge): Mend {
  const worse = [...measures].sort((a, b) => GRADES.indexOf(b.grade) - GRADES.indexOf(a.grade))[0]!;
  return {
    edit,
    what: `bridge with ${clip.name}`,
    measure: worse.worst,
    value: worse[worse.worst],
    grade: worse.grade,
    bridge: { clip: clip.id, name: clip.name, seconds },
  };
}

/** The first words of why a join was chosen, as what is done. */
const describe = (why: string): string => why.replace(/:.*$/, '').replace(/^Frame/, 'use frame');

function raised(scene: Scene, { segment, value }: MendableItem): Pick<Mend, 'edit' | 'what'> {
  const { lift } = scene.segments[segment]!;
  const way = value > 0 ? 'lower' : 'raise';
  return {
    edit: { type: 'change', segment, values: { lift: lift - value / 100 } },
    what: `${way} the clip by ${Math.abs(value).toFixed(1)} cm`,
  };
}

const locked = ({ character }: MendableItem): Pick<Mend, 'edit' | 'what'> => ({
  edit: { type: 'foot-lock', character, on: true },
  what: 'lock the planted feet',
});

const heightMatched = ({ segment }: MendableItem): Pick<Mend, 'edit' | 'what'> => ({
  edit: { type: 'seam', segment, values: { height: true } },
  what: 'match the height at the seam',
});

/** The parts of a clip that close best, and to play it once. */
function loopsClosed(
  scene: Scene,
  { segment: id }: MendableItem,
  library: Library,
): Pick<Mend, 'edit' | 'what'>[] {
  const segment = scene.segments[id]!;
  const parts = findLoops(requireClip(segment, library), OFFERED - 1, library.memory).map((loop) => ({
    edit: { type: 'change', segment: id, values: { in: loop.in, out: loop.out, length: null } } as const,
    what: `close the loop: repeat samples ${loop.in} to ${loop.out}`,
  }));
  const once = { type: 'change', segment: id, values: { loop: false, repeat: 1, length: null } } as const;
  return [...parts, { edit: once, what: 'play it once' }];
}

/** A step in place of the seam at either end of a segment: the feet go where the lock would have had to drag them. */
function steppedAt(scene: Scene, { segment }: MendableItem, library: Library): Pick<Mend, 'edit' | 'what'>[] {
  const lane = Object.values(scene.lanes).find((l) => l.segments.includes(segment));
  const next = lane?.segments[lane.segments.indexOf(segment) + 1];
  return [segment, ...(next === undefined ? [] : [next])].flatMap((id) => {
    const pair = neighboursOf(scene, id, library);
    if (!pair || isGivenJoin(pair)) return [];
    const frames = Math.max(pair.item.overlap, stepFrames(parseRate(scene.rate)));
    const what = `take a step from ${pair.before.segment.name} to ${pair.item.segment.name}`;
    const edits: Edit[] = [
      { type: 'overlap', segment: id, frames },
      { type: 'seam', segment: id, values: {}, join: PLAIN_STEP },
    ];
    return [{ edit: { type: 'several', label: `step before ${pair.item.segment.name}`, edits }, what }];
  });
}
