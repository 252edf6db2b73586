import { useFrame } from '@react-three/fiber';
import type { CharacterPlan, Plan, Tether } from '@warper/core';
import { jointOrRoot } from '@warper/core';
import { useMemo } from 'react';
import { useStore } from 'react-redux';
import { themeColour } from '../../../parts/stage/colours';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import type { RootState } from '../../../store/store';
import { useAppSelector } from '../../../store/store';
import { jointPlace } from './framing';
import { layThread, makeThread } from './thread';

/** While a tether is in hand: a dashed thread from the joint that holds to what is held. */
export function TetherThread({ plan: child }: { readonly plan: CharacterPlan }) {
  const selection = useAppSelector((s) => s.session.selection);
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const tether = selection.kind === 'tether' ? scene.tethers[selection.id] : undefined;
  // A lead is drawn itself.
  if (tether?.child !== child.character.id || tether.kind === 'lead') return null;
  return <Thread plan={plan} tether={tether} />;
}

function Thread({ plan, tether }: { readonly plan: Plan; readonly tether: Tether }) {
  const store = useStore<RootState>();
  const line = useMemo(() => {
    const look = { dashed: true, dashSize: 0.05, gapSize: 0.035, depthTest: false };
    const object = makeThread(2, { ...look, color: themeColour('--signal') });
    object.renderOrder = 18;
    return object;
  }, []);
  useFrame(() => {
    const { frame } = store.getState().session;
    const own = tether.kind === 'reach' ? tether.limb : tether.held;
    const ends = [
      jointPlace(plan, { character: tether.parent, joint: nameIn(plan, tether.parent, tether.joint) }, frame),
      jointPlace(plan, { character: tether.child, joint: nameIn(plan, tether.child, own) }, frame),
    ];
    line.visible = ends.every((e) => e !== null);
    if (!line.visible) return;
    layThread(line, ends.flat() as number[]);
    line.computeLineDistances();
  });
  return <primitive object={line} />;
}

/** The name of a joint that is told by its role or name; that of the root bone where none is. */
function nameIn(plan: Plan, character: string, joint: string | null): string {
  const skeleton = plan.characters.find((c) => c.character.id === character)?.skeleton;
  return skeleton?.names[jointOrRoot(skeleton, joint)] ?? '';
}
