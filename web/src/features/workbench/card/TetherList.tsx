import type { Plan, Scene } from '@warper/core';
import { Button, Group } from '../../../ui/controls';
import { Select } from '../../../ui/Select';
import { commit } from '../../../store/edits';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import type { NewTether } from './newTether';
import { newHold, newLead, newReach, reachingLimbs } from './newTether';
import { tetherSpan } from './tetherWords';

/** Who holds a character or prop and when, and what its hands reach for; new ones begin at the playhead. */
export function TetherList({ id }: { readonly id: string }) {
  const dispatch = useAppDispatch();
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const frame = useAppSelector((s) => s.session.frame);
  const own = Object.values(scene.tethers)
    .filter((t) => t.child === id)
    .sort((a, b) => a.start - b.start);
  const add = ({ tether, edit }: NewTether): void => {
    if (dispatch(commit(edit))) dispatch(sessionActions.selected({ kind: 'tether', id: tether.id }));
  };
  const others = plan.characters.filter((c) => c.character.id !== id);
  const options = others.map((c) => [c.character.id, c.character.name] as const);
  return (
    <Group title="Tethers">
      <ul>
        {own.map((tether) => (
          <li key={tether.id}>
            <Button
              look="row"
              onClick={() => dispatch(sessionActions.selected({ kind: 'tether', id: tether.id }))}
            >
              <span className="truncate">{tether.name}</span>
              <span className="shrink-0 text-soft">{tetherSpan(tether)}</span>
            </Button>
          </li>
        ))}
      </ul>
      {others.length === 0 && <p className="text-soft">Nobody else is in the scene to hold it.</p>}
      {others.length > 0 && (
        <div className="flex flex-wrap gap-x-4">
          {waysFor(scene, plan, id).map(({ label, words, make }) => (
            <Select
              key={label}
              label={label}
              className="text-left text-soft"
              value=""
              placeholder={`${label}...${words(frame)}`}
              options={options}
              onChange={(parent) => add(make(scene, plan, id, parent, frame))}
            />
          ))}
        </div>
      )}
    </Group>
  );
}

/** A kind of tether that can be added. */
interface Way {
  readonly label: string;
  readonly words: (frame: number) => string;
  readonly make: typeof newHold;
}

const HOLD: Way = { label: 'Hold by', words: (frame) => ` (from frame ${frame})`, make: newHold };
const LEAD: Way = { label: 'Lead by', words: () => '', make: newLead };
const REACH: Way = { label: 'Reach for', words: () => '', make: newReach };

const waysFor = (scene: Scene, plan: Plan, id: string): Way[] => [
  HOLD,
  ...(scene.characters[id]?.prop === null ? [LEAD] : []),
  ...(canReach(scene, plan, id) ? [REACH] : []),
];

const canReach = (scene: Scene, plan: Plan, id: string): boolean => {
  const own = plan.characters.find((c) => c.character.id === id);
  return scene.characters[id]?.prop === null && own !== undefined && reachingLimbs(own.skeleton).length > 0;
};
