import { sourcesOfScene } from '@warper/formats';
import { useEffect, useState } from 'react';
import { Group, Panel, Separator } from 'react-resizable-panels';
import { Link, useParams } from 'react-router';
import { DEMONSTRATION, ensureDemonstration } from '../motion/demonstration';
import { describeError } from '../motion/importFiles';
import { openSources } from '../motion/pageLibrary';
import { ImportSheet } from '../parts/ImportSheet';
import { useImport } from '../parts/useImport';
import { loadScene } from '../storage/scenes';
import { sceneActions } from '../store/sceneSlice';
import { shownPlan } from '../store/selectors';
import { sessionActions } from '../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../store/store';
import { Card } from './card/Card';
import { Drawer } from './drawer/Drawer';
import { KeysDialog } from './commands/KeysDialog';
import { useWorkbenchKeys } from './commands/keys';
import { Palette } from './commands/Palette';
import { usePlayback } from './playback';
import { Timeline } from './timeline/Timeline';
import { CueSheet } from './cues/CueSheet';
import { Notices } from './Notices';
import { TopBar } from './TopBar';
import { useRateRemark } from './useRateRemark';
import { useSceneHold } from './useSceneHold';
import { View } from './view/View';

/** The state of opening a scene. */
export type Opening =
  | { readonly state: 'opening' | 'open' }
  | { readonly state: 'failed'; readonly message: string; readonly hint: string };

/** Opens the scene of the address into the store, with the motion that it uses. */
export function useOpenScene(): Opening & { id: string } {
  const { id = '' } = useParams();
  const dispatch = useAppDispatch();
  const openId = useAppSelector((s) => s.scene.id);
  const [failure, setFailure] = useState<{ id: string; message: string; hint: string } | null>(null);
  useEffect(() => {
    if (openId === id) return;
    let gone = false;
    const open = async (): Promise<void> => {
      if (id === DEMONSTRATION) await ensureDemonstration();
      const stored = await loadScene(id);
      if (!stored) throw new Error('There is no such scene in this browser.');
      await openSources(sourcesOfScene(stored.document));
      if (gone) return;
      dispatch(sessionActions.began());
      dispatch(sceneActions.opened(stored));
    };
    open().catch((error) => !gone && setFailure({ id, ...describeError(error) }));
    return () => {
      gone = true;
    };
  }, [id, openId, dispatch]);
  if (openId === id) return { state: 'open', id };
  return failure?.id === id ? { state: 'failed', ...failure } : { state: 'opening', id };
}

/** Shown while a scene opens, or where it cannot be. */
export function OpeningPage({ opening }: { opening: Opening }) {
  return (
    <main className="grid h-full place-items-center">
      {opening.state === 'failed' ? (
        <div role="alert" className="max-w-md text-center">
          <p className="text-lg font-bold">{opening.message}</p>
          <p className="my-2 text-soft">{opening.hint}</p>
          <Link to="/" className="underline">
            All scenes
          </Link>
        </div>
      ) : (
        <p role="status" className="text-soft">
          Opening the scene
        </p>
      )}
    </main>
  );
}

/** The workbench: library, view, card and timeline of one scene. */
export function Workbench() {
  const opening = useOpenScene();
  return opening.state === 'open' ? <OpenWorkbench id={opening.id} /> : <OpeningPage opening={opening} />;
}

/** What is below the view: the lanes or the cue sheet. */
function Below() {
  const below = useAppSelector((s) => s.session.below);
  return below === 'lanes' ? <Timeline /> : <CueSheet />;
}

function OpenWorkbench({ id }: { id: string }) {
  const [keysShown, setKeysShown] = useState(false);
  const [paletteShown, setPaletteShown] = useState(false);
  const importing = useImport(useAppSelector((s) => s.scene.document?.rate));
  const error = useAppSelector((s) => shownPlan(s).error);
  const announcement = useAppSelector((s) => s.session.announcement);
  const take = useSceneHold(id);
  useRateRemark(id);
  usePlayback();
  useWorkbenchKeys({ keys: () => setKeysShown(true), palette: () => setPaletteShown(true) });
  return (
    <div className="flex h-full flex-col" {...importing.dropZone}>
      <TopBar id={id} />
      <Notices onTake={take} />
      {error && (
        <p role="alert" className="border-b bg-raised px-4 py-1.5 text-bad">
          {error.message} <span className="text-soft">{error.hint}</span>
        </p>
      )}
      <Group orientation="vertical" className="min-h-0 flex-1">
        <Panel defaultSize="58%" minSize="25%">
          <div className="grid h-full grid-cols-[196px_minmax(0,1fr)_288px]">
            <Drawer onImport={importing.take} />
            <View />
            <Card />
          </div>
        </Panel>
        <Separator
          className="h-1 bg-transparent hover:bg-rule data-[separator=drag]:bg-soft"
          aria-label="Height of view and timeline"
        />
        <Panel minSize="15%">
          <Below />
        </Panel>
      </Group>
      <div aria-live="polite" className="sr-only">
        {announcement}
      </div>
      <ImportSheet importing={importing} />
      <Palette open={paletteShown} onClose={() => setPaletteShown(false)} />
      <KeysDialog open={keysShown} onClose={() => setKeysShown(false)} />
    </div>
  );
}
