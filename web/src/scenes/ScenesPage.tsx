import type { Scene } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { useLiveQuery } from 'dexie-react-hooks';
import { Plus } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { sourcesOfScene } from '@warper/formats';
import { DEMONSTRATION, ensureDemonstration } from '../motion/demonstration';
import { describeError } from '../motion/importFiles';
import { openSources } from '../motion/pageLibrary';
import { Button } from '../parts/controls';
import { download, fileName } from '../parts/download';
import { ImportButton } from '../parts/ImportButton';
import { PageHeader } from '../parts/PageHeader';
import { ImportSheet } from '../parts/ImportSheet';
import { useImport } from '../parts/useImport';
import { clock } from '../parts/time';
import type { StoredScene } from '../storage/db';
import { db } from '../storage/db';
import { exportScene, newScene, removeScene } from '../storage/scenes';
import { compileScene } from '../store/plan';
import { ScenePicture } from './ScenePicture';

/** All scenes of this browser; a first-time visitor finds the demonstration. */
export function ScenesPage() {
  const scenes = useLiveQuery(() => db.scenes.orderBy('updatedAt').reverse().toArray(), []);
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
        <h1 className="text-[22px] font-bold">Scenes</h1>
        <p className="mb-5 max-w-[62ch] text-soft">
          Put library clips one after the other for each character. Every join is fitted, measured, and yours
          to overrule; the result is baked into one continuous motion.
        </p>
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(340px,1fr))] gap-5">
          {!scenes?.some((s) => s.id === DEMONSTRATION) && (
            <li
              className="grid h-64 place-items-center rounded-lg border border-dashed text-soft"
              role="status"
            >
              Making the demonstration ready
            </li>
          )}
          {scenes?.map((scene) => (
            <SceneItem key={scene.id} stored={scene} />
          ))}
        </ul>
      </main>
      <ImportSheet importing={importing} />
    </div>
  );
}

function SceneItem({ stored }: { stored: StoredScene }) {
  const { id, document } = stored;
  const [ready, setReady] = useState(false);
  useEffect(() => {
    let gone = false;
    openSources(sourcesOfScene(document)).then(
      () => !gone && setReady(true),
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [document]);
  const remove = (): void => {
    void removeScene(id).then((removed) => {
      toast(`${document.name} was removed`, {
        action: { label: 'Undo', onClick: () => removed && void db.scenes.put(removed) },
      });
    });
  };
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
          <h2 className="text-[15px] font-bold">
            <Link to={`/scene/${id}`} className="after:absolute after:inset-0">
              {document.name}
            </Link>
          </h2>
          {id === DEMONSTRATION && <span className="text-[12.5px] text-signal">demonstration</span>}
        </div>
        <p className="text-soft">{ready ? describeScene(document) : ' '}</p>
      </div>
      <div className="relative z-10 flex items-center gap-1 px-2 pt-1 pb-2">
        <span className="flex-1 pl-2 text-[12.5px] text-soft">
          changed {new Date(stored.updatedAt).toLocaleDateString()}
        </span>
        <Button look="quiet" onClick={save}>
          Save a copy
        </Button>
        {id !== DEMONSTRATION && (
          <Button look="quiet" onClick={remove}>
            Remove
          </Button>
        )}
      </div>
    </li>
  );
}

function describeScene(scene: Scene): string {
  const { plan } = compileScene(scene);
  const count = plan.characters.length;
  const segments = Object.keys(scene.segments).length;
  const names = plan.characters.map((c) => c.character.name).join(', ');
  return `${clock(plan.end, framesPerSecond(plan.rate))} · ${segments} segments · ${count === 0 ? 'no characters yet' : names}`;
}
