import type { DelayedLinks } from '@warper/core';
import { defined } from '@warper/core';
import { useState } from 'react';
import { commit } from '../../store/edits';
import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { Button } from '../../ui/controls';

/** After an edit that delayed what waits for it: asks once what else should wait. */
export function WaitNotice() {
  const delayed = useAppSelector((s) => s.session.delayed);
  const document = useAppSelector((s) => s.scene.document);
  if (!delayed || !document) return null;
  return <Question key={`${delayed.from} ${delayed.frames}`} delayed={delayed} />;
}

const MARKERS = 'markers';

function Question({ delayed }: { readonly delayed: DelayedLinks }) {
  const dispatch = useAppDispatch();
  const characters = useAppSelector((s) => defined(s.scene.document).characters);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const { name, from, frames } = delayed;
  const others = [
    ...delayed.characters.map((id) => [id, characters[id]?.name ?? ''] as const),
    ...(delayed.markers ? [[MARKERS, 'Markers'] as const] : []),
  ];
  const wait = (): void => {
    const who = chosen.filter((c) => c !== MARKERS);
    dispatch(commit({ type: 'wait', from, frames, characters: who, markers: chosen.includes(MARKERS) }));
    dispatch(sessionActions.delayed(null));
  };
  return (
    <div role="status" className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b bg-raised px-4 py-1.5">
      <p>
        <b>
          {name} begins {frames} {frames === 1 ? 'frame' : 'frames'} later.
        </b>{' '}
        What else from frame {from} on should wait?
      </p>
      <div role="group" aria-label="What should wait" className="flex flex-1 flex-wrap gap-1.5">
        {others.map(([id, label]) => (
          <Button
            key={id}
            look="chip"
            aria-pressed={chosen.includes(id)}
            onClick={() => setChosen(chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id])}
          >
            {label}
          </Button>
        ))}
      </div>
      <Button disabled={chosen.length === 0} onClick={wait}>
        Wait
      </Button>
      <Button look="quiet" onClick={() => dispatch(sessionActions.delayed(null))}>
        Nothing else
      </Button>
    </div>
  );
}
