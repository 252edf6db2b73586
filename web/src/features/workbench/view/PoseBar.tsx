import { limbEndingAt, roleWords } from '@warper/core';
import type { Plan } from '@warper/core';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';

/** While a layer is in hand: which joint is posed, and how its handle works. */
export function PoseBar({ plan }: { readonly plan: Plan }) {
  const dispatch = useAppDispatch();
  const { selection, posed, posing } = useAppSelector((s) => s.session);
  const lane = useAppSelector((s) =>
    selection.kind === 'layer' ? s.scene.document?.lanes[selection.id] : undefined,
  );
  const skeleton = plan.characters.find((c) => c.character.id === lane?.character)?.skeleton;
  if (!lane || !skeleton) return null;
  const joint = posed === null ? -1 : skeleton.names.indexOf(posed);
  if (joint < 0) return <span className="text-soft">Press a joint to pose it</span>;
  const role = skeleton.roles[joint];
  return (
    <div role="group" aria-label="Posed joint" className="flex items-center gap-1.5">
      <span className="font-semibold">{role ? roleWords(role) : posed}</span>
      {limbEndingAt(skeleton, joint) &&
        (['turn', 'reach'] as const).map((how) => (
          <Button
            look="tab"
            key={how}
            aria-pressed={posing === how}
            onClick={() => dispatch(sessionActions.posing(how))}
          >
            {how === 'turn' ? 'Turn' : 'Reach'}
          </Button>
        ))}
    </div>
  );
}
