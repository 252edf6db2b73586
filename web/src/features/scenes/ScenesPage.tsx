import type { Scene } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { useLiveQuery } from 'dexie-react-hooks';
import { MoreHorizontal, Plus } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { sourcesOfScene, fileName } from '@warper/formats';
import {
  DEMONSTRATION,
  DEMONSTRATION_SCENES,
  START_OVER,
  ensureDemonstration,
  freshDemonstration,
} from '../../data/demonstration';
import { describeError } from '../../data/importFiles';
import { keptStorage } from '../../data/keepStorage';
import { openSources } from '../../data/pageLibrary';
import { Button } from '../../ui/controls';
import { download } from '../../ui/download';
import { ImportButton } from '../../ui/ImportButton';
import { saveRaw } from '../../ui/saveRaw';
import { PageHeader } from '../../parts/PageHeader';
import { ImportSheet } from '../../parts/ImportSheet';
import { useImport } from '../../parts/useImport';
import { clock } from '../../ui/time';
import type { StoredScene } from '../../data/db';
import { db } from '../../data/db';
import type { ListedScene } from '../../data/scenes';
import {
  duplicateScene,
  exportScene,
  listScenes,
  newScene,
  removeScene,
  renameScene,
  replaceScene,
} from '../../data/scenes';
import { compileScene } from '../../store/plan';
import { ScenePicture } from './ScenePicture';
import { giveFocusBack } from '../../ui/giveFocusBack';

/** All scenes of this browser; a first-time visitor finds the demonstration. */
export function ScenesPage() {
  const scenes = useLiveQuery(listScenes, []);
  const navigate = useNavigate();
  const importing = useImport();
  useEffect(() => {
    ensureDemonstration().catch((error) => {
      const { message, hint } = describeError(error);
      toast.error(message, { description: hint });
    });
  }, []);
  const create = (): void => void newScene('Untitled').then((id) => navigate(`/scene/${id}`));
  return (
    <div className="flex h-full flex-col" {...importing.dropZone}>
      <PageHeader>
        <ImportButton
          label="Open a scene file"
          fieldLabel="Scene file"
          accept=".warper"
          onFiles={importing.take}
        />
        <Button look="primary" onClick={create}>
          <Plus size={15} aria-hidden /> New scene
        </Button>
      </PageHeader>
      <main className="min-h-0 flex-1 overflow-auto px-6 py-7">
        <h1 className="text-display font-bold">Scenes</h1>
        <p className="mb-5 max-w-[62ch] text-soft">
          Put library clips one after the other for each character. Every join is fitted, measured, and yours
          to overrule; the result is baked into one continuous motion.
        </p>
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(min(340px,100%),1fr))] gap-5">
          {!scenes?.some((s) => s.id === DEMONSTRATION) && (
            <li
              className="grid h-64 place-items-center rounded-lg border border-dashed text-soft"
              role="status"
            >
              Making the demonstration ready
            </li>
          )}
          {scenes?.map((listed) =>
            listed.scene ? (
              <SceneItem key={listed.id} stored={listed.scene} />
            ) : (
              <DamagedScene key={listed.id} listed={listed} />
            ),
          )}
        </ul>
        <StorageNote />
      </main>
      <ImportSheet importing={importing} />
    </div>
  );
}

function SceneItem({ stored }: { stored: StoredScene }) {
  const { id, document } = stored;
  const ready = useSources(document);
  const [renaming, setRenaming] = useState(false);
  const save = (): void => {
    exportScene(document).then(
      (bytes) => download(bytes, `${fileName(document.name)}.warper`, 'application/zip'),
      (error) => toast.error(describeError(error).message),
    );
  };
  return (
    <li className="relative overflow-hidden rounded-lg border bg-raised hover:border-soft">
      <div className="h-44 bg-plaster">{ready && <ScenePicture scene={document} />}</div>
      <div className="px-4 pt-3">
        <div className="flex items-baseline justify-between gap-2">
          <h2 className="text-title font-bold">
            {renaming ? (
              <NameField
                name={document.name}
                onDone={(name) => {
                  setRenaming(false);
                  if (name && name !== document.name) void renameScene(id, name);
                }}
              />
            ) : (
              <Link to={`/scene/${id}`} className="after:absolute after:inset-0">
                {document.name}
              </Link>
            )}
          </h2>
          {DEMONSTRATION_SCENES.includes(id) && <span className="text-note text-signal">demonstration</span>}
        </div>
        <p className="text-soft">{ready ? describeScene(document) : ' '}</p>
      </div>
      <div className="relative z-10 flex items-center gap-1 px-2 pt-1 pb-2">
        <span className="flex-1 pl-2 text-note text-soft">
          changed {new Date(stored.updatedAt).toLocaleDateString()}
        </span>
        <SceneMenu
          name={document.name}
          choices={[
            ['Rename', () => setRenaming(true)],
            ['Duplicate', () => void duplicateScene(id)],
            ['Save as file', save],
            id === DEMONSTRATION
              ? (['Start over', startOver] as const)
              : (['Remove', () => remove(id, document.name)] as const),
          ]}
        />
      </div>
    </li>
  );
}

/** How much this browser keeps, and what to do where it may clear it by itself. */
function StorageNote() {
  // Told anew whenever files or scenes come or go.
  const kept = useLiveQuery(async () => {
    await Promise.all([db.files.count(), db.scenes.count()]);
    return keptStorage();
  }, []);
  if (!kept) return null;
  return (
    <p className="mt-6 max-w-[62ch] text-note text-soft">
      Scenes and library are kept in this browser: {Math.max(1, Math.round(kept.megabytes))} MB.{' '}
      {!kept.promised && 'It may clear them when the disk is full: save as files what must not be lost.'}
    </p>
  );
}

/** Makes the demonstration what it was at first; its history leads back. */
function startOver(): void {
  freshDemonstration()
    .then((scene) => replaceScene(DEMONSTRATION, scene, START_OVER))
    .then(
      () => toast('The demonstration is as it was at first. Undo in it brings your changes back.'),
      (error) => toast.error(describeError(error).message, { description: describeError(error).hint }),
    );
}

/** Opens what a scene is made of; gives whether it is open. */
function useSources(scene: Scene): boolean {
  const [ready, setReady] = useState(false);
  useEffect(() => {
    let gone = false;
    openSources(sourcesOfScene(scene)).then(
      () => !gone && setReady(true),
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [scene]);
  return ready;
}

/** Removes a scene, and offers to take it back. */
function remove(id: string, name: string): void {
  void removeScene(id).then((bringBack) =>
    toast(`${name} was removed`, { action: { label: 'Undo', onClick: () => void bringBack() } }),
  );
}

/** A scene that is kept here and cannot be read: what is there of it can be saved, and it can be removed. */
function DamagedScene({ listed }: { listed: ListedScene & { readonly scene: null } }) {
  const name = 'A scene that cannot be read';
  return (
    <li className="flex flex-col rounded-lg border border-bad bg-raised px-4 py-3">
      <h2 className="text-title font-bold">{name}</h2>
      <p className="flex-1 text-bad">{listed.problem}</p>
      <div className="flex gap-2 pt-3">
        <Button onClick={() => saveRaw(listed.raw, `scene-${fileName(listed.id)}`)}>Save what is left</Button>
        <Button onClick={() => remove(listed.id, name)}>Remove</Button>
      </div>
    </li>
  );
}

/** What can be done with a scene. */
function SceneMenu({ name, choices }: { name: string; choices: readonly (readonly [string, () => void])[] }) {
  const chosen = useRef<(() => void) | null>(null);
  // What is chosen may want the focus, so it waits until the menu has given it back.
  const actLater = (event: Event): void => {
    giveFocusBack(event);
    if (chosen.current) setTimeout(chosen.current);
    chosen.current = null;
  };
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button look="quiet" aria-label={`More for ${name}`}>
          <MoreHorizontal size={16} aria-hidden />
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          className="z-50 min-w-40 rounded-md border bg-raised py-1 shadow-lg"
          align="end"
          onCloseAutoFocus={actLater}
        >
          {choices.map(([word, act]) => (
            <DropdownMenu.Item
              key={word}
              className="cursor-pointer px-3 py-1 outline-none data-[highlighted]:bg-paper"
              onSelect={() => {
                chosen.current = act;
              }}
            >
              {word}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** A scene's name while it is changed; Escape leaves it. */
function NameField({ name, onDone }: { name: string; onDone: (name: string | null) => void }) {
  const [text, setText] = useState(name);
  const done = useRef(false);
  const finish = (to: string | null): void => {
    if (done.current) return;
    done.current = true;
    onDone(to);
  };
  return (
    <input
      ref={(e) => e?.focus()}
      aria-label="Name of the scene"
      className="relative z-10 w-full border-b border-ink bg-transparent"
      value={text}
      onFocus={(e) => e.currentTarget.select()}
      onChange={(e) => setText(e.currentTarget.value)}
      onBlur={() => finish(text.trim())}
      onKeyDown={(e) => {
        if (e.key === 'Enter') finish(text.trim());
        if (e.key === 'Escape') finish(null);
      }}
    />
  );
}

function describeScene(scene: Scene): string {
  const { plan } = compileScene(scene);
  const props = plan.characters.filter((c) => c.character.prop).length;
  const segments = Object.keys(scene.segments).length;
  const names = plan.characters.flatMap((c) => (c.character.prop ? [] : [c.character.name])).join(', ');
  const parts = [
    clock(plan.end, framesPerSecond(plan.rate)),
    `${segments} segments`,
    names || 'no characters yet',
    ...(props > 0 ? [`${props} ${props === 1 ? 'prop' : 'props'}`] : []),
    ...(scene.alternateOrder.length > 0 ? [`${scene.alternateOrder.length} alternates`] : []),
  ];
  return parts.join(' · ');
}
