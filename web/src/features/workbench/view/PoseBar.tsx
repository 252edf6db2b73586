import { roleWords } from '@warper/core';
import type { Plan, Skeleton } from '@warper/core';
import { useEffect, useRef } from 'react';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Check } from '../../../ui/controls';
import { dropUnkeyed, keyUnkeyed } from './keyPose';
import { moveWord } from './moveEdit';
import { NudgeButton } from './NudgeButton';

/** While a layer is in hand: which joint is posed, how its handle works, and what becomes a key. */
export function PoseBar({ plan }: { readonly plan: Plan }) {
  const selection = useAppSelector((s) => s.session.selection);
  const lane = useAppSelector((s) =>
    selection.kind === 'layer' ? s.scene.document?.lanes[selection.id] : undefined,
  );
  const skeleton = plan.characters.find((c) => c.character.id === lane?.character)?.skeleton;
  useUnkeyedWatch();
  if (!lane || !skeleton) return null;
  return (
    <div
      role="group"
      aria-label="Posed joint"
      className="flex basis-full flex-wrap items-center gap-x-3 gap-y-0.5"
    >
      <PosedJoint skeleton={skeleton} layer={lane.id} />
      <KeyingChoice />
    </div>
  );
}

/** Lets go of what is not keyed when another frame or another thing is gone to. */
function useUnkeyedWatch(): void {
  const dispatch = useAppDispatch();
  const frame = useAppSelector((s) => s.session.frame);
  const selection = useAppSelector((s) => s.session.selection);
  const first = useRef(true);
  useEffect(() => {
    if (!first.current) dispatch(dropUnkeyed);
    first.current = false;
  }, [frame, selection, dispatch]);
}

/** What stays where it is while the hips, the trunk or the head are moved. */
function KeptChoice({ isHips }: { readonly isHips: boolean }) {
  const dispatch = useAppDispatch();
  const kept = useAppSelector((s) => s.session.kept);
  const limbs = isHips ? KEPT_LIMBS : KEPT_LIMBS.filter(([limb]) => limb !== 'feet');
  return (
    <span role="group" aria-label="Stays in its place" className="flex items-center gap-1">
      <span className="text-soft">Keep</span>
      {limbs.map(([limb, name]) => (
        <Button
          look="chip"
          key={limb}
          className="py-0!"
          aria-pressed={kept[limb]}
          onClick={() => dispatch(sessionActions.limbsKept({ [limb]: !kept[limb] }))}
        >
          {name}
        </Button>
      ))}
    </span>
  );
}

const KEPT_LIMBS = [
  ['leftHand', 'Left hand'],
  ['rightHand', 'Right hand'],
  ['feet', 'Feet'],
] as const;

function PosedJoint({ skeleton, layer }: { readonly skeleton: Skeleton; readonly layer: string }) {
  const dispatch = useAppDispatch();
  const { posed, posing, ringAxes } = useAppSelector((s) => s.session);
  const joint = posed === null ? -1 : skeleton.names.indexOf(posed);
  if (joint < 0) return <span className="text-soft">Press a joint to pose it</span>;
  const role = skeleton.roles[joint];
  const move = moveWord(skeleton, joint);
  const moves = move !== null && posing === 'reach';
  return (
    <>
      <span className="font-semibold">{role ? roleWords(role) : posed}</span>
      {move && (
        <span className="flex">
          {(['turn', 'reach'] as const).map((how) => (
            <Button
              look="tab"
              key={how}
              aria-pressed={posing === how}
              onClick={() => dispatch(sessionActions.posing(how))}
            >
              {how === 'turn' ? 'Turn' : move}
            </Button>
          ))}
        </span>
      )}
      {moves && move === 'Move' && <KeptChoice isHips={joint === skeleton.rootBone} />}
      <NudgeButton
        {...{ layer, joint, moves }}
        what={role ? roleWords(role) : (skeleton.names[joint] ?? 'joint')}
      />
      {!moves && (
        <Button
          look="soft"
          title="The axes about which the rings turn the joint"
          onClick={() => dispatch(sessionActions.ringAxes(ringAxes === 'own' ? 'world' : 'own'))}
        >
          {ringAxes === 'own' ? 'Own axes' : 'World axes'}
        </Button>
      )}
    </>
  );
}

/** Whether poses become keys by themselves; what is not keyed yet is keyed here, or let go. */
function KeyingChoice() {
  const dispatch = useAppDispatch();
  const { autoKey, unkeyed } = useAppSelector((s) => s.session);
  return (
    <>
      <Check
        label="Key automatically"
        checked={autoKey}
        onChange={(auto) => dispatch(sessionActions.autoKeyed(auto))}
      />
      {unkeyed && (
        <span className="flex items-center gap-2">
          <span className="text-watch">Not keyed yet</span>
          <Button onClick={() => dispatch(keyUnkeyed)}>Key it</Button>
          <Button look="soft" onClick={() => dispatch(dropUnkeyed)}>
            Let go
          </Button>
        </span>
      )}
    </>
  );
}
