import { PLAIN_CHARACTER } from '@warper/core';
import { useLiveQuery } from 'dexie-react-hooks';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { openSources } from '../../../data/pageLibrary';
import type { StoredBody } from '../../../data/db';
import { db } from '../../../data/db';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { freshId } from '../../../data/freshId';
import { giveFocusBack } from '../../../ui/giveFocusBack';

/** A menu of the bodies in the library; choosing one adds a character with a lane of its own. */
export function AddCharacter({ children }: { children: ReactNode }) {
  const dispatch = useAppDispatch();
  const bodies = useLiveQuery(() => db.bodies.toArray(), []);
  const taken = useAppSelector((s) =>
    Object.values(s.scene.document?.characters ?? {})
      .map((c) => c.name)
      .join('\n'),
  );
  const count = useAppSelector((s) => s.scene.document?.characterOrder.length ?? 0);
  // A body that comes with a skin is a character; clips bring bodies of bones, which follow.
  const sorted = [...(bodies ?? [])].sort((a, b) => Number(b.skinned) - Number(a.skinned)).slice(0, 40);
  const add = (body: StoredBody): void => {
    const id = freshId('c');
    const base = body.name.replace(/[_-]+/g, ' ');
    const names = new Set(taken.split('\n'));
    let name = base;
    for (let n = 2; names.has(name); n++) name = `${base} ${n}`;
    void openSources([body.source]).then(() => {
      dispatch(
        commit({
          type: 'add character',
          character: {
            ...PLAIN_CHARACTER,
            id,
            name,
            body: body.id,
            hue: count % 8,
            start: { x: count * 0.9, z: 0, heading: 0 },
          },
          lane: `${id}body`,
        }),
      );
      dispatch(sessionActions.selected({ kind: 'character', id }));
    });
  };
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
                {body.skinned ? 'with skin' : 'bones'} · {body.heightMetres.toFixed(2)} m
              </span>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
