import type { CharacterPlan, Edit, Plan, Scene } from '@warper/core';
import { PROP_SHAPES, jointOfRole, posedAt } from '@warper/core';
import { commit } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { newHold, newReach } from '../card/newTether';
import type { NewTether } from '../card/newTether';
import { addProp } from '../drawer/newProp';
import type { Command, Thunk } from './command';

/** What a tether of the thing in hand is made from. */
interface InHand {
  readonly scene: Scene;
  readonly plan: Plan;
  readonly own: CharacterPlan;
  readonly frame: number;
}

/** Does something with the character or prop in hand; of a tether with what it holds. */
const withOwn =
  (make: (inHand: InHand) => NewTether | string): Thunk =>
  (dispatch, getState) => {
    const state = getState();
    const { selection, frame } = state.session;
    const scene = state.scene.document;
    const { plan } = selectPreviewPlan(state);
    const id = 'id' in selection ? (scene?.tethers[selection.id]?.child ?? selection.id) : '';
    const own = plan.characters.find((c) => c.character.id === id);
    if (!scene || !own) return void dispatch(sessionActions.announced('Select a character or a prop first'));
    const made = make({ scene, plan, own, frame });
    if (typeof made === 'string') return void dispatch(sessionActions.announced(made));
    if (dispatch(commit(made.edit)))
      dispatch(sessionActions.selected({ kind: 'tether', id: made.tether.id }));
  };

/** The nearest to a body of some others, by the places of their joints at a frame. */
function nearestTo(
  own: CharacterPlan,
  others: readonly CharacterPlan[],
  frame: number,
  joints: (plan: CharacterPlan) => readonly number[],
): CharacterPlan | null {
  const at = (plan: CharacterPlan, joint: number): readonly number[] => [
    ...posedAt(plan, frame).world.positions.subarray(joint * 3, joint * 3 + 3),
  ];
  const place = at(own, own.skeleton.rootBone);
  let best: { readonly plan: CharacterPlan; readonly far: number } | null = null;
  for (const plan of others)
    for (const joint of joints(plan)) {
      const far = Math.hypot(...at(plan, joint).map((v, k) => v - (place[k] ?? 0)));
      if (!best || far < best.far) best = { plan, far };
    }
  return best?.plan ?? null;
}

const handsOf = ({ skeleton }: CharacterPlan): number[] =>
  (['leftHand', 'rightHand'] as const).map((r) => jointOfRole(skeleton, r)).filter((j) => j >= 0);

const others = ({ plan, own }: InHand): CharacterPlan[] => plan.characters.filter((c) => c !== own);

const holdByNearest = withOwn((inHand) => {
  const { scene, plan, own, frame } = inHand;
  const parent = nearestTo(own, others(inHand), frame, handsOf);
  return parent
    ? newHold(scene, plan, own.character.id, parent.character.id, frame)
    : 'Nobody else in the scene has hands';
});

const reachForNearest = withOwn((inHand) => {
  const { scene, plan, own, frame } = inHand;
  const props = others(inHand).filter((c) => c.character.prop);
  const thing = nearestTo(own, props, frame, ({ skeleton }) => skeleton.names.map((_, j) => j));
  if (handsOf(own).length === 0) return `${own.character.name} has no hands`;
  return thing
    ? newReach(scene, plan, own.character.id, thing.character.id, frame)
    : 'The scene has no props';
});

/** Ends at the playhead whatever holds the thing in hand then, or the tether in hand. */
const letGo: Thunk = (dispatch, getState) => {
  const { scene, session } = getState();
  const { selection, frame } = session;
  const id = 'id' in selection ? selection.id : '';
  const held = Object.values(scene.document?.tethers ?? {}).filter(
    (t) => (t.child === id || t.id === id) && t.start < frame && (t.end ?? Infinity) > frame,
  );
  if (held.length === 0) return void dispatch(sessionActions.announced('Nothing holds it at the playhead'));
  const edits = held.map((t): Edit => ({ type: 'change tether', tether: t.id, values: { end: frame } }));
  if (dispatch(commit({ type: 'several', label: 'letting go', edits })))
    dispatch(sessionActions.announced(`Let go at frame ${frame}`));
};

/** What can be done with props and tethers. */
export const STAGING_COMMANDS: readonly Command[] = [
  {
    id: 'hold',
    name: 'Hold by the nearest hand from the playhead',
    words: 'tether attach carry pick up grab constrain parent',
    group: 'Staging',
    run: holdByNearest,
  },
  {
    id: 'let go',
    name: 'Let go at the playhead',
    words: 'release drop set down detach end tether',
    group: 'Staging',
    run: letGo,
  },
  {
    id: 'reach',
    name: 'Reach for the nearest prop from the playhead',
    words: 'hand grip touch grab tether inverse kinematics',
    group: 'Staging',
    run: reachForNearest,
  },
  ...PROP_SHAPES.flatMap((shape): Command[] =>
    shape === 'own file'
      ? []
      : [
          {
            id: `prop ${shape}`,
            name: `Add a prop: ${shape}`,
            words: 'new object thing stand-in',
            group: 'Staging',
            run: addProp(shape, null),
          },
        ],
  ),
];
