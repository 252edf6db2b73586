import { memo, useMemo, useState } from 'react';
import { Group, Panel, Separator } from 'react-resizable-panels';
import { ImportSheet } from '../../parts/ImportSheet';
import { useImport } from '../../parts/useImport';
import { selectPreviewPlan } from '../../store/selectors';
import { useAppSelector } from '../../store/store';
import { AlternateList } from './alternates/AlternateList';
import { Card } from './card/Card';
import { Drawer } from './drawer/Drawer';
import { KeysDialog } from './commands/KeysDialog';
import { useWorkbenchKeys } from './commands/keys';
import { Palette } from './commands/Palette';
import { usePlayback } from './playback';
import { useSounds } from './sound/useSounds';
import { Timeline } from './timeline/Timeline';
import { CueSheet } from './cues/CueSheet';
import { CurvesPanel } from './curves/CurvesPanel';
import { ContinuityPanel } from './continuity/ContinuityPanel';
import { ShotList } from './filming/ShotList';
import { SeamDesk } from './desk/SeamDesk';
import { Notices } from './Notices';
import { WaitNotice } from './WaitNotice';
import { TopBar } from './TopBar';
import { Tour } from './help/Tour';
import { chooseFiles } from '../../ui/chooseFiles';
import { Button } from '../../ui/controls';
import { useStableCallback } from '../../ui/useStableCallback';
import { useMedia } from '../../ui/useMedia';
import { useJoinWatch } from './useJoinWatch';
import { usePlayheadAtSelection } from './usePlayheadAtSelection';
import { useRateRemark } from './useRateRemark';
import { useRefusal } from './useRefusal';
import { useSceneHold } from './useSceneHold';
import { View } from './view/View';
import { OpeningPage } from '../../parts/OpeningPage';
import { useOpenScene } from '../../parts/useOpenScene';

/** The workbench: library, view, card and timeline of one scene. */
export function Workbench() {
  const opening = useOpenScene();
  return opening.state === 'open' ? <OpenWorkbench id={opening.id} /> : <OpeningPage opening={opening} />;
}

/** What is below the view. */
const Below = memo(function Below({ id }: { readonly id: string }) {
  switch (useAppSelector((s) => s.session.below)) {
    case 'lanes':
      return <Timeline />;
    case 'curves':
      return <CurvesPanel />;
    case 'cues':
      return <CueSheet />;
    case 'seam':
      return <SeamDesk />;
    case 'shots':
      return <ShotList />;
    case 'alternates':
      return <AlternateList />;
    case 'continuity':
      return <ContinuityPanel id={id} />;
  }
});

const ABOVE = [
  ['clips', 'Clips'],
  ['view', 'View'],
  ['card', 'Selection'],
] as const;

/** The library, the view and the card: beside each other, or one at a time where there is no width for all. */
const Above = memo(function Above({ onImport }: { onImport: (files: readonly File[]) => void }) {
  const narrow = useMedia('(max-width: 860px)');
  const [shown, setShown] = useState<(typeof ABOVE)[number][0]>('view');
  const look = (part: typeof shown): string => (narrow && shown !== part ? 'hidden' : 'min-h-0 min-w-0');
  return (
    <div className="flex h-full flex-col">
      {narrow && (
        <div role="group" aria-label="Above the timeline" className="flex shrink-0 gap-2 border-b px-3">
          {ABOVE.map(([part, name]) => (
            <Button look="tab" key={part} aria-pressed={shown === part} onClick={() => setShown(part)}>
              {name}
            </Button>
          ))}
        </div>
      )}
      <div
        className={`grid min-h-0 flex-1 ${narrow ? 'grid-cols-1' : 'grid-cols-[196px_minmax(0,1fr)_288px]'}`}
      >
        <div className={look('clips')} data-tour="clips">
          <Drawer onImport={onImport} />
        </div>
        <div className={look('view')} data-tour="view">
          <View />
        </div>
        <div className={look('card')} data-tour="card">
          <Card />
        </div>
      </div>
    </div>
  );
});

/** The first stop of Tab: over everything else to the first segment. */
function SkipLink() {
  const skip = (): void => {
    const target =
      document.querySelector<HTMLElement>('[data-segment]') ??
      document.querySelector<HTMLElement>('[data-timeline] button');
    target?.focus();
  };
  return (
    <Button
      className="sr-only focus:not-sr-only focus:absolute focus:top-1 focus:left-1 focus:z-50"
      onClick={skip}
    >
      Skip to the timeline
    </Button>
  );
}

// A drag changes the previewed scene with every move: what does not show it is left alone.
const Bar = memo(TopBar);
const Dialogs = memo(function Dialogs({ sheet, onSheet, onImport }: DialogProps) {
  return (
    <>
      <Palette
        open={sheet === 'palette'}
        onClose={() => onSheet(null)}
        onImport={onImport}
        onKeys={() => onSheet('keys')}
      />
      <KeysDialog open={sheet === 'keys'} onClose={() => onSheet(null)} />
    </>
  );
});

type Sheet = 'keys' | 'palette' | null;

interface DialogProps {
  readonly sheet: Sheet;
  readonly onSheet: (sheet: Sheet) => void;
  readonly onImport: () => void;
}

function OpenWorkbench({ id }: { id: string }) {
  const [sheet, setSheet] = useState<Sheet>(null);
  const importing = useImport(useAppSelector((s) => s.scene.document?.rate));
  const error = useAppSelector((s) => selectPreviewPlan(s).error);
  const announcement = useAppSelector((s) => s.session.announcement);
  const take = useSceneHold(id);
  useRateRemark(id);
  usePlayback();
  useSounds();
  usePlayheadAtSelection();
  useJoinWatch();
  useRefusal();
  const sheets = useMemo(() => ({ keys: () => setSheet('keys'), palette: () => setSheet('palette') }), []);
  useWorkbenchKeys(sheets);
  const importFiles = useStableCallback(importing.take);
  const chooseImport = useStableCallback(() => chooseFiles(importing.take));
  return (
    // Words for screen readers alone lie beside what is scrolled; the page itself never scrolls.
    <div className="relative flex h-full flex-col overflow-clip" {...importing.dropZone}>
      <SkipLink />
      <Bar id={id} onKeys={sheets.keys} />
      <Notices onTake={take} />
      <WaitNotice />
      {error && (
        <p role="alert" className="border-b bg-raised px-4 py-1.5 text-bad">
          {error.message} <span className="text-soft">{error.hint}</span>
        </p>
      )}
      <Group orientation="vertical" className="min-h-0 flex-1" role="main" aria-label="Workbench">
        <Panel defaultSize="58%" minSize="25%">
          <Above onImport={importFiles} />
        </Panel>
        <Separator
          className="h-1 bg-transparent hover:bg-rule data-[separator=drag]:bg-soft"
          aria-label="Height of view and timeline"
        />
        <Panel minSize="15%">
          <div className="h-full" data-tour="lanes">
            <Below id={id} />
          </div>
        </Panel>
      </Group>
      <div aria-live="polite" className="sr-only">
        {announcement}
      </div>
      <ImportSheet importing={importing} />
      <Tour id={id} />
      <Dialogs sheet={sheet} onSheet={setSheet} onImport={chooseImport} />
    </div>
  );
}
