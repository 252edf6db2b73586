import { useFrame } from '@react-three/fiber';
import type { CharacterPlan, Lead, Plan, Scene } from '@warper/core';
import { collarOf, jointOrRoot } from '@warper/core';
import { useMemo } from 'react';
import { useStore } from 'react-redux';
import { themeColour } from '../../../parts/stage/colours';
import type { RootState } from '../../../store/store';
import { jointPlace } from './framing';
import { leadCurve } from './leadCurve';
import { layThread, makeThread } from './thread';

/** Points of a lead as it is drawn. */
const POINTS = 24;

/** The leads of the scene: lines from hand to collar, hanging through by their slack. */
export function LeadLines({ scene, plan, theme }: { scene: Scene; plan: Plan; theme: string }) {
  return Object.values(scene.tethers)
    .filter((t): t is Lead => t.kind === 'lead' && !t.muted)
    .map((lead) => {
      const [child, parent] = [lead.child, lead.parent].map((id) =>
        plan.characters.find((c) => c.character.id === id && c.character.shown !== 'nothing'),
      );
      return child && parent ? (
        <LeadLine key={`${lead.id}-${theme}`} lead={lead} child={child} parent={parent} plan={plan} />
      ) : null;
    });
}

interface Props {
  readonly lead: Lead;
  readonly child: CharacterPlan;
  readonly parent: CharacterPlan;
  readonly plan: Plan;
}

function LeadLine({ lead, child, parent, plan }: Props) {
  const store = useStore<RootState>();
  const line = useMemo(() => makeThread(POINTS, { color: themeColour('--ink') }), []);
  useFrame(() => {
    const { frame } = store.getState().session;
    line.visible = frame >= lead.start && frame < (lead.end ?? Infinity);
    if (!line.visible) return;
    const hand = jointPlace(
      plan,
      {
        character: lead.parent,
        joint: parent.skeleton.names[jointOrRoot(parent.skeleton, lead.joint)] ?? '',
      },
      frame,
    );
    const collar = jointPlace(
      plan,
      { character: lead.child, joint: child.skeleton.names[collarOf(child.skeleton, lead)] ?? '' },
      frame,
    );
    line.visible = hand !== null && collar !== null;
    if (!hand || !collar) return;
    layThread(line, leadCurve(hand, collar, lead.length, POINTS));
  });
  return <primitive object={line} />;
}
