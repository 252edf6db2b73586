import type { Clip } from '@warper/core';
import { compile, defined } from '@warper/core';
import { Pause, Play } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, useParams } from 'react-router';
import { library } from '../../../data/pageLibrary';
import { PageHeader } from '../../../parts/PageHeader';
import { StepRows } from '../../../ui/Figures';
import { Button } from '../../../ui/controls';
import type { StoredClip } from '../../../data/db';
import { FactsCard } from './FactsCard';
import type { Side } from './ClipStage';
import { ClipStage, SIDES } from './ClipStage';
import { Curves } from './Curves';
import { shownSteps } from './shownSteps';
import { StepPanel } from './steps/StepPanel';
import type { StepRow } from './steps/stepSpans';
import { asOwnSteps, stepRows } from './steps/stepSpans';
import { pressesItself } from './pressesItself';
import { useClip } from './useClip';
import { usePlaying } from './usePlaying';
import type { Variant } from './variant';
import { asRecorded, variantScene } from './variant';

/** One clip of the library: looked at from every side, measured, and what can be made from it. */
export default function ClipPage() {
  const { id = '' } = useParams();
  const opened = useClip(id);
  return (
    <div className="flex h-full flex-col">
      <PageHeader>
        <Link to="/library" className="text-soft hover:text-ink">
          All clips
        </Link>
      </PageHeader>
      {opened.state === 'opening' && (
        <p role="status" className="grid flex-1 place-items-center text-soft">
          Opening the clip
        </p>
      )}
      {opened.state === 'failed' && (
        <div role="alert" className="grid flex-1 place-items-center">
          <p>
            {opened.message} <span className="text-soft">{opened.hint}</span>
          </p>
        </div>
      )}
      {opened.state === 'open' && (
        <OpenedClip key={id} stored={opened.stored} clip={opened.clip} body={opened.body} />
      )}
    </div>
  );
}

function OpenedClip({ stored, clip, body }: { stored: StoredClip; clip: Clip; body: string }) {
  const [variant, setVariant] = useState<Variant>(() => asRecorded(clip));
  const [on, setOn] = useState(false);
  const [side, setSide] = useState<Side>('around');
  /** Steps on trial; null while they are not edited. */
  const [rows, setRows] = useState<readonly StepRow[] | null>(null);
  const plan = useMemo(() => {
    const scene = variantScene(clip, body, variant);
    return compile(rows ? { ...scene, steps: { [clip.id]: asOwnSteps(rows) } } : scene, library);
  }, [clip, body, variant, rows]);
  const editSteps = (): void => {
    setOn(false);
    setVariant(asRecorded(clip));
    setRows(stepRows(clip));
  };
  const { playing, frame } = usePlaying(plan.end, clip.rate, on);
  useHotkeys('space', () => setOn((o) => !o), { preventDefault: true, ignoreEventWhen: pressesItself });
  const steps = useMemo(() => shownSteps(defined(defined(plan.characters[0]).segments[0])), [plan]);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_300px] max-narrow:grid-cols-1 max-narrow:grid-rows-[90vh_auto] max-narrow:overflow-auto">
      <main className="flex min-h-0 min-w-0 flex-col">
        <section aria-label="The clip in motion" className="relative min-h-0 flex-1 bg-plaster">
          <ClipStage plan={plan} playing={playing} side={side} />
          <LookFrom side={side} onChange={setSide} />
        </section>
        <PlayBar frames={plan.end} {...{ frame, on, setOn, steps }} go={(sample) => playing.go(sample)} />
        {rows ? (
          <StepPanel
            {...{ stored, clip, rows }}
            sample={Math.min(frame, clip.frames - 1)}
            change={setRows}
            onShow={(sample) => playing.go(sample)}
            close={() => setRows(null)}
          />
        ) : (
          <div className="px-5 py-3">
            <Curves clip={clip} from={variant.in} to={variant.out - 1} />
          </div>
        )}
      </main>
      <FactsCard
        stored={stored}
        clip={clip}
        variant={variant}
        change={(v) => {
          setRows(null);
          setVariant({ ...variant, ...v });
        }}
        editSteps={editSteps}
      />
    </div>
  );
}

function LookFrom({ side, onChange }: { side: Side; onChange: (side: Side) => void }) {
  return (
    <div role="group" aria-label="Look from" className="absolute top-2 left-3 flex text-small">
      {(Object.keys(SIDES) as Side[]).map((key) => (
        <Button
          look="tab"
          key={key}
          aria-pressed={side === key}
          className="capitalize"
          onClick={() => onChange(key)}
        >
          {key}
        </Button>
      ))}
    </div>
  );
}

interface PlayBarProps {
  readonly frames: number;
  readonly frame: number;
  readonly on: boolean;
  readonly setOn: (change: (on: boolean) => boolean) => void;
  readonly go: (frame: number) => void;
  readonly steps: ReturnType<typeof shownSteps>;
}

/** Plays the clip and goes to any frame of it; its steps lie below. */
function PlayBar({ frames, frame, on, setOn, go, steps }: PlayBarProps) {
  return (
    <div className="flex items-center gap-3 border-y px-5 py-2">
      <Button
        look="quiet"
        aria-label={on ? 'Pause' : 'Play'}
        aria-keyshortcuts="Space"
        onClick={() => setOn((o) => !o)}
      >
        {on ? <Pause size={16} aria-hidden /> : <Play size={16} aria-hidden />}
      </Button>
      <div className="min-w-0 flex-1">
        <input
          type="range"
          aria-label="Frame"
          className="block w-full accent-signal"
          min={0}
          max={Math.max(0, frames - 1)}
          value={Math.min(frame, Math.max(0, frames - 1))}
          onChange={(e) => {
            setOn(() => false);
            go(Number(e.currentTarget.value));
          }}
        />
        <svg viewBox={`0 0 1000 11`} preserveAspectRatio="none" className="block h-2.5 w-full" aria-hidden>
          <StepRows {...steps} frames={frames} width={1000} />
        </svg>
      </div>
      <span className="w-24 text-right text-soft" data-testid="clip-frame">
        {Math.min(frame, frames - 1)} of {frames}
      </span>
    </div>
  );
}
