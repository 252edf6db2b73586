import { PLAIN_CHARACTER } from '@warper/core';
import { useLiveQuery } from 'dexie-react-hooks';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { openSources } from '../../../data/pageLibrary';
import type { StoredBody } from '../../../data/db';
import { db } from '../../../data/db';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import type { Thunk } from '../commands/command';
import { freeName } from './freeName';
import { freshId } from '../../../data/freshId';
import { giveFocusBack } from '../../../ui/giveFocusBack';

/** A menu of the bodies in the library; choosing one adds a character with a lane of its own. */
export function AddCharacter({ children }: { children: ReactNode }) {
  const dispatch = useAppDispatch();
  const bodies = useLiveQuery(() => db.bodies.toArray(), []);
  // A body that comes with a skin is a character; clips bring bodies of bones, which follow.
  const sorted = [...(bodies ?? [])].sort((a, b) => Number(b.skinned) - Number(a.skinned)).slice(0, 40);
  const add = (body: StoredBody): void => void dispatch(addCharacter(body));
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{children}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          onCloseAutoFocus={giveFocusBack}
          align="start"
          sideOffset={4}
          className="z-50 max-h-80 min-w-52 overflow-auto rounded-md border bg-raised p-1 shadow-md"
        >
          {sorted.length === 0 && <div className="px-2 py-1 text-soft">Import a character first.</div>}
          {sorted.map((body) => (
            <DropdownMenu.Item
              key={body.id}
              className="flex cursor-pointer justify-between gap-4 rounded px-2 py-1 outline-none data-highlighted:bg-paper"
              onSelect={() => add(body)}
            >
              <span>{body.name}</span>
              <span className="text-soft">
                {body.skinned ? 'with skin' : 'Bones'} · {body.heightMetres.toFixed(2)} m
              </span>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Adds a character with a body, beside those that are there. */
const addCharacter =
  (body: StoredBody): Thunk =>
  async (dispatch, getState) => {
    await openSources([body.source]);
    const characters = Object.values(getState().scene.document?.characters ?? {});
    const id = freshId('c');
    const character = {
      ...PLAIN_CHARACTER,
      id,
      name: freeName(
        body.name.replace(/[_-]+/g, ' '),
        characters.map((c) => c.name),
      ),
      body: body.id,
      hue: characters.length % 8,
      start: { x: characters.length * 0.9, z: 0, heading: 0 },
    };
    dispatch(commit({ type: 'add character', character, lane: `${id}body` }));
    dispatch(sessionActions.selected({ kind: 'character', id }));
  };
