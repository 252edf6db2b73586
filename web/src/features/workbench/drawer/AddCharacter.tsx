import { useLiveQuery } from 'dexie-react-hooks';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import type { CastBody } from '../../../data/castBodies';
import { castBodies } from '../../../data/castBodies';
import { db } from '../../../data/db';
import { openSources } from '../../../data/pageLibrary';
import { BodyPicture } from '../../../parts/BodyPicture';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import { giveFocusBack } from '../../../ui/giveFocusBack';
import type { Thunk } from '../commands/command';
import { newCharacter } from './newCharacter';

/** Bodies that are listed at most. */
const LISTED = 40;

/** A menu of the bodies in the library; choosing one adds a character with a lane of its own. */
export function AddCharacter({ children }: { children: ReactNode }) {
  const dispatch = useAppDispatch();
  const cast = useLiveQuery(readCast, []) ?? [];
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{children}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          onCloseAutoFocus={giveFocusBack}
          align="start"
          sideOffset={4}
          className="z-50 max-h-96 min-w-72 overflow-auto rounded-md border bg-raised p-1 shadow-md"
        >
          {cast.length === 0 && (
            <div className="px-2 py-1 text-soft">No bodies yet: import a file with a skeleton first.</div>
          )}
          {cast.map((entry) => (
            <BodyItem key={entry.body.id} entry={entry} onSelect={() => dispatch(addCharacter(entry))} />
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

async function readCast(): Promise<CastBody[]> {
  const bodies = await db.bodies.toArray();
  const sources = [...new Set(bodies.map((b) => b.source))];
  // Names alone are wanted, not the bytes, but a file is read as a whole: only of bodies that are listed.
  const listed = castBodies(bodies, []).slice(0, LISTED);
  const wanted = sources.filter((s) => listed.some((c) => c.body.source === s));
  const files = (await db.files.bulkGet(wanted)).flatMap((f) => (f ? [{ id: f.id, file: f.file }] : []));
  return castBodies(bodies, files).slice(0, LISTED);
}

function BodyItem({ entry, onSelect }: { readonly entry: CastBody; readonly onSelect: () => void }) {
  const { body, name, from } = entry;
  return (
    <DropdownMenu.Item
      className="flex cursor-pointer items-center gap-3 rounded px-2 py-1 outline-none data-highlighted:bg-paper"
      onSelect={onSelect}
    >
      <BodyPicture body={body} />
      <span className="min-w-0">
        <span className="block font-semibold">{name}</span>
        <span className="block truncate text-note text-soft">
          {body.heightMetres.toFixed(2)} m, {body.skinned ? 'with skin' : 'bones only'} · {from}
        </span>
      </span>
    </DropdownMenu.Item>
  );
}

/** Adds a character with a body, beside those that are there. */
const addCharacter =
  ({ body, name }: CastBody): Thunk =>
  async (dispatch, getState) => {
    await openSources([body.source]);
    const scene = getState().scene.document;
    if (!scene) return;
    const { edit, character } = newCharacter(scene, { id: body.id, name });
    if (dispatch(commit(edit))) dispatch(sessionActions.selected({ kind: 'character', id: character.id }));
  };
