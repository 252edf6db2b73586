import type { CharacterPlan, Edit, Plan, Scene, Segment } from '@warper/core';
import {
  PROP_SHAPES,
  defined,
  evaluate,
  framesPerSecond,
  jointOfRole,
  makePoseBuffer,
  posedAt,
} from '@warper/core';
import { commit } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import type { SessionState } from '../../../store/sessionState';
import { sessionActions } from '../../../store/sessionSlice';
import { newHold, newLead, newReach } from '../card/newTether';
import type { NewTether } from '../card/newTether';
import { pushNow } from '../card/PushGroup';
import { nearestLink } from '../card/events';
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

const leadByNearest = withOwn((inHand) => {
  const { scene, plan, own, frame } = inHand;
  if (own.character.prop) return 'A prop does not walk on a lead: hold it, or tether it';
  const parent = nearestTo(own, others(inHand), frame, handsOf);
  return parent
    ? newLead(scene, plan, own.character.id, parent.character.id, frame)
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

/** The character in hand: of a segment, a layer or a tether its own. */
function ownCharacter(scene: Scene, selection: SessionState['selection']): string | null {
  if (!('id' in selection)) return null;
  const { id } = selection;
  if (scene.characters[id]) return id;
  const lane = scene.lanes[id] ?? Object.values(scene.lanes).find((l) => l.segments.includes(id));
  return scene.tethers[id]?.child ?? lane?.character ?? null;
}

/** The segment of the character in hand that is performed at the playhead, on its own lane. */
const atPlayhead =
  (does: (segment: Segment, plan: CharacterPlan, frame: number) => Thunk): Thunk =>
  (dispatch, getState) => {
    const state = getState();
    const scene = state.scene.document;
    const frame = Math.round(state.session.frame);
    const id = scene && ownCharacter(scene, state.session.selection);
    const plan = selectPreviewPlan(state).plan.characters.find((c) => c.character.id === id);
    const performed = plan?.segments.findLast((s) => s.start <= frame && frame < s.end);
    const segment = performed && scene?.segments[performed.id];
    if (!plan || !segment)
      return void dispatch(
        sessionActions.announced('Select a character who does something at the playhead first'),
      );
    dispatch(does(segment, plan, frame));
  };

const tapeMark = atPlayhead((segment, plan, frame) => (dispatch) => {
  const at = frame - segment.start;
  if (at < 1)
    return void dispatch(sessionActions.announced('A mark is hit after the first frame of its segment'));
  const { root } = evaluate(plan, frame, makePoseBuffer(plan.skeleton));
  const mark = {
    frame: at,
    x: defined(root[0]),
    z: defined(root[1]),
    heading: (defined(root[2]) * 180) / Math.PI,
  };
  const marks = [...segment.marks.filter((m) => m.frame !== at), mark].sort((a, b) => a.frame - b.frame);
  if (!dispatch(commit({ type: 'change', segment: segment.id, values: { marks } }))) return;
  dispatch(sessionActions.selected({ kind: 'segment', id: segment.id }));
  dispatch(sessionActions.announced(`Mark at frame ${frame}; drag it in the view`));
});

const drawPath = atPlayhead((segment) => (dispatch) => {
  dispatch(sessionActions.selected({ kind: 'segment', id: segment.id }));
  dispatch(sessionActions.drawing(segment.id));
  dispatch(sessionActions.announced('Click the floor to add points to the path; Enter ends'));
});

/** Has what is in hand wait for the event nearest to it, where it stands. */
const linkNearest: Thunk = (dispatch, getState) => {
  const state = getState();
  const scene = state.scene.document;
  const { selection } = state.session;
  const of = selection.kind;
  if (!scene || (of !== 'segment' && of !== 'tether' && of !== 'marker'))
    return void dispatch(sessionActions.announced('Select a segment, a tether or a marker first'));
  const link = nearestLink(scene, selectPreviewPlan(state).plan, { of, id: selection.id, at: 'start' });
  if (!link) return void dispatch(sessionActions.announced('There is nothing else in the scene to wait for'));
  if (dispatch(commit({ type: 'link', link }))) dispatch(sessionActions.announced('Linked'));
};

const push: Thunk = (dispatch, getState) => {
  const state = getState();
  const scene = state.scene.document;
  const id = scene && ownCharacter(scene, state.session.selection);
  const { plan } = selectPreviewPlan(state);
  if (!id || scene.characters[id]?.prop)
    return void dispatch(sessionActions.announced('Select a character first'));
  const door = plan.characters.find((c) => c.character.prop?.shape === 'door');
  const { frame } = state.session;
  dispatch(pushNow(id, door?.character.id ?? null, Math.round(frame), 0.3, framesPerSecond(plan.rate) / 2));
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
    id: 'lead',
    name: 'Put on a lead held by the nearest hand',
    words: 'leash dog walk pull tether follow',
    group: 'Staging',
    run: leadByNearest,
  },
  {
    id: 'reach',
    name: 'Reach for the nearest prop from the playhead',
    words: 'hand grip touch grab tether inverse kinematics',
    group: 'Staging',
    run: reachForNearest,
  },
  {
    id: 'push',
    name: 'Push the character at the playhead',
    words: 'shove hit impact knock back door reaction',
    group: 'Staging',
    run: push,
  },
  {
    id: 'link',
    name: 'Link to the nearest event',
    words: 'wait for start with sync depend dependency cue',
    group: 'Staging',
    run: linkNearest,
  },
  {
    id: 'mark',
    name: 'Tape a mark on the floor at the playhead',
    words: 'spot place position hit blocking',
    group: 'Staging',
    run: tapeMark,
  },
  {
    id: 'path',
    name: 'Draw a path with clicks on the floor',
    words: 'route curve walk along way blocking',
    group: 'Staging',
    run: drawPath,
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
