import type { CharacterPlan, Look } from '@warper/core';
import { defined, jointOfRole, posedAt } from '@warper/core';
import { selectPreviewScene } from '../../../store/selectors';
import { useAppSelector } from '../../../store/store';
import { Group } from '../../../ui/controls';
import { LookFields } from '../../../ui/LookFields';

interface Props {
  readonly look: Look | null;
  readonly plan: CharacterPlan;
  /** What it is called to look at nothing of one's own. */
  readonly nothing?: string;
  readonly onChange: (look: Look | null) => void;
}

/** How far before the eyes a place begins, metres. */
const AHEAD = 2;

/** What the head follows with the eyes: a place, or another character. */
export function LookGroup({ look, plan, nothing, onChange }: Props) {
  const frame = useAppSelector((s) => s.session.frame);
  const { characters, characterOrder } = useAppSelector(selectPreviewScene);
  const others = characterOrder.filter((id) => id !== plan.character.id);
  return (
    <Group title="Look">
      <LookFields
        look={look}
        nothing={nothing}
        others={others.map((id) => [id, defined(characters[id]).name])}
        placeAhead={() => placeAhead(plan, frame)}
        onChange={onChange}
      />
    </Group>
  );
}

/** A place before the eyes of a character. */
function placeAhead(plan: CharacterPlan, frame: number): [number, number, number] {
  const { world, heading } = posedAt(plan, frame);
  const head = Math.max(0, jointOfRole(plan.skeleton, 'head')) * 3;
  const [x = 0, y = 0, z = 0] = world.positions.slice(head, head + 3);
  const rounded = (v: number): number => Math.round(v * 100) / 100;
  return [rounded(x + AHEAD * Math.sin(heading)), rounded(y), rounded(z + AHEAD * Math.cos(heading))];
}
