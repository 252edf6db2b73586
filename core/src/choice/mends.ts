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
import { bridgesSteps } from './bridges';
import { chooseJoin } from './chooseJoin';

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
}

const GRADES: readonly Grade[] = ['good', 'watch', 'bad'];

/**
 * Finds what mends an item of the continuity report; yields the finished share.
 *
 * @param clips what a bad seam may be bridged with
 * @returns null where nothing makes it better
 */
export function* mendSteps(
  scene: Scene,
  item: MendableItem,
  clips: readonly Clip[],
  library: Library,
  freshId: () => string,
): Generator<number, Mend | null> {
  if (item.kind === 'seam') return yield* mendSeam(scene, item, clips, library, freshId);
  yield 0.5;
  const { edit, what } = item.kind === 'float' ? raised(scene, item) : locked(item);
  const current = applyEdit(scene, edit, library);
  const after = continuityReport(compile(current, library)).find((i) => i.id === item.id);
  return { edit, what, measure: item.measure, value: after?.value ?? 0, grade: after?.grade ?? 'good' };
}

function* mendSeam(
  ...[scene, item, clips, library, freshId]: Parameters<typeof mendSteps>
): Generator<number, Mend | null> {
  const limits = scene.segments[item.segment]?.seam.limits ?? scene.choice;
  const choice = chooseJoin(scene, item.segment, library, limits);
  const isBetter = choice && GRADES.indexOf(choice.measures.grade) < GRADES.indexOf(item.grade);
  const chosen: Mend | null = isBetter
    ? {
        edit: choice.edit,
        what: describe(choice.edit.values.chosen?.why ?? ''),
        measure: choice.measures.worst,
        value: choice.measures[choice.measures.worst],
        grade: choice.measures.grade,
      }
    : null;
  if (chosen?.grade === 'good' || !limits.bridges) return chosen;
  const [bridge] = yield* bridgesSteps(scene, item.segment, clips, library, freshId, limits);
  if (!bridge) return chosen;
  const worse = [...bridge.measures].sort((a, b) => GRADES.indexOf(b.grade) - GRADES.indexOf(a.grade))[0]!;
  return {
    edit: bridge.edit,
    what: `bridge with ${bridge.clip.name}, ${bridge.seconds.toFixed(1)} s longer`,
    measure: worse.worst,
    value: worse[worse.worst],
    grade: worse.grade,
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
