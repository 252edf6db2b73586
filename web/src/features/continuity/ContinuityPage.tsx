import { fileName } from '@warper/formats';
import type { ContinuityItem, Grade, Plan, Scene, ShotSize } from '@warper/core';
import { SHOT_SIZES } from '@warper/core';
import { useState } from 'react';
import { ItemRow } from '../../parts/continuity/ItemRow';
import { isShown } from '../../parts/continuity/isShown';
import type { Shown } from '../../parts/continuity/isShown';
import { SHOWN } from '../../parts/continuity/isShown';
import { useContinuity } from '../../parts/continuity/useContinuity';
import { OpeningPage } from '../../parts/OpeningPage';
import { SceneHeader } from '../../parts/SceneHeader';
import { useOpenScene } from '../../parts/useOpenScene';
import { makeAutomatic } from '../../store/choices';
import { commit } from '../../store/edits';
import { selectPreviewPlan, selectPreviewScene } from '../../store/selectors';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { Button, Choice } from '../../ui/controls';
import { download } from '../../ui/download';
import { gradeWord } from '../../ui/grade';
import { RatioChart } from './RatioChart';
import { reportCsv, reportJson } from './reportFile';

/** Everything that is measured in a scene, worst first, with what mends it. */
export function ContinuityPage() {
  const opening = useOpenScene();
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  if (opening.state !== 'open') return <OpeningPage opening={opening} />;
  return (
    <div className="flex h-full flex-col print:block print:h-auto">
      <SceneHeader id={opening.id} name={scene.name} page="Continuity" />
      <main className="min-h-0 flex-1 overflow-auto print:overflow-visible">
        <Report scene={scene} plan={plan} />
      </main>
    </div>
  );
}

/** What is shown of the list. */
interface Filters {
  readonly character: string;
  readonly grade: Shown;
}

function Report({ scene, plan }: { readonly scene: Scene; readonly plan: Plan }) {
  const { items, problem } = useContinuity(scene);
  const [filters, setFilters] = useState<Filters>({ character: 'all', grade: 'open' });
  if (problem)
    return (
      <p role="alert" className="p-8 text-bad">
        {problem}
      </p>
    );
  if (!items)
    return (
      <p role="status" className="p-8 text-soft">
        Measuring
      </p>
    );
  const { character, grade } = filters;
  const shown = items.filter(
    (item) => (character === 'all' || item.character === character) && isShown(item, grade, scene.ignored),
  );
  const planOf = (id: string) => plan.characters.find((c) => c.character.id === id);
  return (
    <div className="mx-auto flex max-w-5xl flex-col gap-4 px-6 py-6">
      <h1 className="text-display font-bold">Continuity</h1>
      <Summary items={items} scene={scene} />
      <RatioChart items={items} end={plan.end} />
      <Tools scene={scene} plan={plan} items={items} filters={filters} setFilters={setFilters} />
      {shown.length === 0 ? (
        <p className="text-soft">
          {items.length === 0
            ? 'Nothing is measured yet: two segments that follow each other make a seam.'
            : 'Nothing here.'}
        </p>
      ) : (
        <table className="w-full text-left">
          <thead className="text-soft">
            <tr>
              <th className="font-normal">
                <span className="sr-only">Pose</span>
              </th>
              <th className="font-normal">Where</th>
              <th className="font-normal">Measure</th>
              <th className="font-normal">Why, and what can be done</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((item) => (
              <ItemRow key={item.id} scene={scene} item={item} plan={planOf(item.character)} />
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

function Summary({ items, scene }: { readonly items: readonly ContinuityItem[]; readonly scene: Scene }) {
  const count = (grade: Grade): number =>
    items.filter((i) => i.grade === grade && scene.ignored[i.id] === undefined).length;
  const words = (['bad', 'watch', 'good'] as const).map((g) => `${count(g)} ${gradeWord(g)}`);
  return (
    <p role="status" className="text-soft">
      {words.join(' · ')}
    </p>
  );
}

interface ToolProps {
  readonly scene: Scene;
  readonly plan: Plan;
  readonly items: readonly ContinuityItem[];
  readonly filters: Filters;
  readonly setFilters: (filters: Filters) => void;
}

const SIZES: readonly (readonly [ShotSize, string])[] = (Object.keys(SHOT_SIZES) as ShotSize[]).map(
  (size) => [size, size[0]?.toUpperCase() + size.slice(1)],
);

/** What is shown and judged by what, and what can be done with all of it. */
function Tools({ scene, plan, items, filters, setFilters }: ToolProps) {
  const dispatch = useAppDispatch();
  const seams = items
    .filter((i) => i.kind === 'seam' && i.grade !== 'good' && scene.ignored[i.id] === undefined)
    .sort((a, b) => a.frame - b.frame)
    .map((i) => i.segment);
  const isChoosing = useAppSelector((s) => s.session.choosing.length > 0);
  const name = fileName(`${scene.name} continuity`);
  const save = (content: string, ending: string, type: string): void =>
    download(new TextEncoder().encode(content), `${name}.${ending}`, type);
  return (
    <div className="flex flex-wrap items-center gap-3 print:hidden">
      <Choice
        label="Show"
        value={filters.grade}
        options={SHOWN}
        onChange={(grade) => setFilters({ ...filters, grade })}
      />
      <Choice
        label="Character"
        value={filters.character}
        options={[['all', 'All'], ...plan.characters.map((c) => [c.character.id, c.character.name] as const)]}
        onChange={(character) => setFilters({ ...filters, character })}
      />
      <Choice
        label="Judged for"
        value={scene.shotSize}
        options={SIZES}
        onChange={(shotSize) => dispatch(commit({ type: 'judge', shotSize }))}
      />
      <span className="flex-1" />
      <Button
        look="primary"
        disabled={seams.length === 0 || isChoosing}
        onClick={() => void dispatch(makeAutomatic(seams))}
      >
        {isChoosing ? 'Mending…' : `Mend all seams (${seams.length})`}
      </Button>
      <Button onClick={() => save(reportJson(items, scene), 'json', 'application/json')}>JSON</Button>
      <Button onClick={() => save(reportCsv(items, scene.ignored), 'csv', 'text/csv')}>CSV</Button>
      <Button onClick={() => print()}>Print</Button>
    </div>
  );
}
