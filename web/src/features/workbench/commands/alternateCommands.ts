import { alternateInHand, alternatesOf } from '@warper/core';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { MOST_BESIDES } from '../../../store/sessionState';
import { newAlternate, scopeWords } from '../alternates/newAlternate';
import type { Command, Thunk } from './command';

const none = 'The scene has no alternates yet: keep it as one with Shift+S';

const add: Thunk = (dispatch, getState) => {
  const { scene, session } = getState();
  if (!scene.document) return;
  const made = newAlternate(scene.document, session.selection);
  if (!dispatch(commit(made))) return;
  dispatch(
    sessionActions.announced(
      `${made.name} is in hand. What may differ in it: ${scopeWords(made.scope, scene.document)}`,
    ),
  );
};

/** Takes an alternate in hand; one that was seen beside changes places with it. */
export const swapTo =
  (alternate: string): Thunk =>
  (dispatch, getState) => {
    const { scene, session } = getState();
    const before = scene.document && alternateInHand(scene.document);
    if (!dispatch(commit({ type: 'swap alternate', alternate }))) return;
    const besides = session.besides.map((id) => (id === alternate ? before?.id : id));
    dispatch(sessionActions.besides(besides.flatMap((id) => id ?? [])));
    dispatch(sessionActions.announced(`${scene.document?.alternates[alternate]?.name ?? ''} is in hand`));
  };

const swapBy =
  (by: 1 | -1): Thunk =>
  (dispatch, getState) => {
    const { document } = getState().scene;
    const inHand = document && alternateInHand(document);
    if (!document || !inHand) return void dispatch(sessionActions.announced(none));
    const all = document.alternateOrder;
    const next = all[(all.indexOf(inHand.id) + by + all.length) % all.length];
    if (next !== undefined && next !== inHand.id) swapTo(next)(dispatch, getState);
  };

/** Sees the other alternates beside the one in hand, or no longer. */
const compare =
  (how: 'side by side' | 'ghosts'): Thunk =>
  (dispatch, getState) => {
    const { scene, session } = getState();
    const others = scene.document ? alternatesOf(scene.document).filter((a) => a.differences) : [];
    if (others.length === 0) return void dispatch(sessionActions.announced(none));
    const off = session.besides.length > 0 && session.comparison === how;
    dispatch(sessionActions.comparison(how));
    if (off) dispatch(sessionActions.besides([]));
    else if (session.besides.length === 0)
      dispatch(sessionActions.besides(others.slice(0, MOST_BESIDES).map((a) => a.id)));
    // What is compared is looked at.
    if (!off && session.selection.kind !== 'scene') dispatch(sessionActions.framed('selection'));
    dispatch(
      sessionActions.announced(
        off
          ? 'Only the alternate in hand is seen'
          : how === 'ghosts'
            ? 'Seen as ghosts'
            : 'Seen side by side',
      ),
    );
  };

const everywhere: Thunk = (dispatch, getState) => {
  const on = !getState().session.inAllAlternates;
  dispatch(sessionActions.inAllAlternates(on));
  dispatch(
    sessionActions.announced(
      on ? 'Edits change all alternates' : 'Edits of what may differ change this alternate only',
    ),
  );
};

/** What can be done with alternates. */
export const ALTERNATE_COMMANDS: readonly Command[] = [
  {
    id: 'new alternate',
    name: 'Keep as an alternate and go on in another',
    words: 'version variant branch try take copy new',
    group: 'Alternates',
    keys: ['Shift+S'],
    run: add,
  },
  {
    id: 'next alternate',
    name: 'Swap to the next alternate',
    words: 'version variant switch',
    group: 'Alternates',
    keys: ['S'],
    run: swapBy(1),
  },
  {
    id: 'alternate before',
    name: 'Swap to the alternate before',
    words: 'version variant switch previous',
    group: 'Alternates',
    run: swapBy(-1),
  },
  {
    id: 'side by side',
    name: 'Alternates side by side in the view, or not',
    words: 'compare version variant beside split',
    group: 'Alternates',
    keys: ['I'],
    run: compare('side by side'),
  },
  {
    id: 'alternate ghosts',
    name: 'Alternates as ghosts in the view, or not',
    words: 'compare version variant overlay onion',
    group: 'Alternates',
    keys: ['Shift+I'],
    run: compare('ghosts'),
  },
  {
    id: 'all alternates',
    name: 'Change all alternates, or this one',
    words: 'version variant everywhere reach',
    group: 'Alternates',
    run: everywhere,
  },
  {
    id: 'alternates',
    name: 'Alternates, or lanes',
    words: 'version variant table compare measures comments',
    group: 'Alternates',
    run: (dispatch, getState) =>
      dispatch(
        sessionActions.showedBelow(getState().session.below === 'alternates' ? 'lanes' : 'alternates'),
      ),
  },
];
