import type { ContinuityItem, Scene } from '@warper/core';
import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { ItemRow } from '../../../parts/continuity/ItemRow';
import type { Shown } from '../../../parts/continuity/isShown';
import { SHOWN, isShown } from '../../../parts/continuity/isShown';
import { useContinuity } from '../../../parts/continuity/useContinuity';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Choice } from '../../../ui/controls';
import { BelowSwitch } from '../BelowSwitch';

/** Everything that is measured in the scene, below the view: what is pressed is shown in it, and what is at one place is marked there. */
export function ContinuityPanel({ id }: { readonly id: string }) {
  const scene = useAppSelector((s) => s.scene.document);
  const [shown, setShown] = useState<Shown>('open');
  return (
    <section aria-label="Continuity" className="flex h-full min-h-0 flex-col border-t">
      <div className="flex shrink-0 items-center gap-4 px-4 py-1">
        <h2 className="font-bold">Continuity</h2>
        <Choice label="Show" value={shown} options={SHOWN} onChange={setShown} />
        <Link to={`/scene/${id}/continuity`} className="ml-auto underline">
          Whole page
        </Link>
      </div>
      <div className="min-h-0 flex-1 overflow-auto px-4">{scene && <List scene={scene} shown={shown} />}</div>
      <div className="flex h-[25px] shrink-0 items-center border-t">
        <BelowSwitch />
      </div>
    </section>
  );
}

function List({ scene, shown }: { readonly scene: Scene; readonly shown: Shown }) {
  const { items, problem } = useContinuity(scene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const dispatch = useAppDispatch();
  const list = useMemo(
    () => (items ?? []).filter((item) => isShown(item, shown, scene.ignored)),
    [items, shown, scene.ignored],
  );
  useEffect(() => {
    dispatch(sessionActions.located(list.filter((item) => item.place)));
    return () => void dispatch(sessionActions.located([]));
  }, [dispatch, list]);
  if (problem)
    return (
      <p role="alert" className="py-2 text-bad">
        {problem}
      </p>
    );
  if (!items || list.length === 0)
    return (
      <p role="status" className="py-2 text-soft">
        {!items ? 'Measuring' : nothing(items, shown)}
      </p>
    );
  return (
    <table className="w-full text-left">
      <caption className="sr-only">What was measured, worst first</caption>
      <tbody>
        {list.map((item) => (
          <ItemRow
            key={item.id}
            scene={scene}
            item={item}
            plan={plan.characters.find((c) => c.character.id === item.character)}
          />
        ))}
      </tbody>
    </table>
  );
}

const nothing = (items: readonly ContinuityItem[], shown: Shown): string =>
  shown === 'open' && items.length > 0 ? `All ${items.length} that were measured are good.` : 'Nothing here.';
