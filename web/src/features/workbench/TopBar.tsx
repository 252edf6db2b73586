import { framesPerSecond, defined } from '@warper/core';
import { ChevronLeft, ChevronRight, Pause, Play, Redo2, Repeat, Undo2, Volume2, VolumeX } from 'lucide-react';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { Button } from '../../ui/controls';
import type { TimeUnit } from '../../ui/time';
import { showTime } from '../../ui/time';
import { commit, redo, undo } from '../../store/edits';
import { selectPreviewPlan, selectPreviewScene } from '../../store/selectors';
import { sessionActions } from '../../store/sessionSlice';
import { PACES } from '../../store/sessionState';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { commandOf } from './commands/commands';
import { togglePlay } from './playback';
import { Select } from '../../ui/Select';
import { useSeamSum } from './useSeamSum';
import { useShownFrame } from './useShownFrame';
import { HelpMenu } from './help/HelpMenu';
import { ThemeButton } from '../../parts/ThemeButton';
import { Wordmark } from '../../ui/Wordmark';

const SAVE_TEXT = { saved: 'saved', saving: 'saving', failed: 'not saved: trying again' } as const;

/** Name, clock, undo, what needs looking at, and the way to the bake. */
export function TopBar({ id, onKeys }: { id: string; onKeys: () => void }) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const save = useAppSelector((s) => s.scene.save);
  const undoLabel = useAppSelector((s) => s.scene.past.at(-1)?.label);
  const redoLabel = useAppSelector((s) => s.scene.future[0]?.label);
  return (
    <header className="flex min-h-[46px] shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b px-4 max-[1150px]:gap-x-2">
      <Wordmark />
      <SceneName />
      <span className={save === 'failed' ? 'text-bad' : 'text-soft'} role="status">
        {SAVE_TEXT[save]}
      </span>
      <span className="flex">
        <Button
          look="quiet"
          disabled={!undoLabel}
          aria-label={undoLabel ? `Undo ${undoLabel}` : 'Nothing to undo'}
          title={undoLabel && `Undo ${undoLabel}`}
          onClick={() => dispatch(undo())}
        >
          <Undo2 size={16} aria-hidden />
        </Button>
        <Button
          look="quiet"
          disabled={!redoLabel}
          aria-label={redoLabel ? `Redo ${redoLabel}` : 'Nothing to redo'}
          title={redoLabel && `Redo ${redoLabel}`}
          onClick={() => dispatch(redo())}
        >
          <Redo2 size={16} aria-hidden />
        </Button>
      </span>
      <span className="flex-1 max-narrow:hidden" />
      <Transport />
      <span className="flex-1" />
      <Attention />
      <ThemeButton />
      <HelpMenu id={id} onKeys={onKeys} />
      <Button look="primary" data-tour="bake" onClick={() => navigate(`/scene/${id}/bake`)}>
        Bake
      </Button>
    </header>
  );
}

function SceneName() {
  const dispatch = useAppDispatch();
  const name = useAppSelector((s) => selectPreviewScene(s).name);
  const [text, setText] = useState<string | null>(null);
  const finish = (): void => {
    if (text !== null && text.trim() !== name) dispatch(commit({ type: 'rename scene', name: text }));
    setText(null);
  };
  return (
    <input
      aria-label="Name of the scene"
      className="max-w-60 min-w-16 border-b border-transparent bg-transparent text-title field-sizing-content hover:border-rule focus:border-ink"
      value={text ?? name}
      onChange={(e) => setText(e.currentTarget.value)}
      onBlur={finish}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') setText(null);
      }}
    />
  );
}

const NEXT_UNIT: Readonly<Record<TimeUnit, TimeUnit>> = {
  seconds: 'timecode',
  timecode: 'frames',
  frames: 'seconds',
};

function Transport() {
  const dispatch = useAppDispatch();
  const playing = useAppSelector((s) => s.session.playing);
  const looping = useAppSelector((s) => s.session.looping);
  const pace = useAppSelector((s) => s.session.pace);
  return (
    <div className="flex items-center gap-2">
      <StepButton id="back" sign={ChevronLeft} />
      <Button
        look="bare"
        aria-label={playing ? 'Pause' : 'Play'}
        className="grid size-[30px] place-items-center rounded-full bg-ink text-paper"
        onClick={() => dispatch(togglePlay())}
      >
        {playing ? (
          <Pause size={14} fill="currentColor" aria-hidden />
        ) : (
          <Play size={14} fill="currentColor" className="translate-x-px" aria-hidden />
        )}
      </Button>
      <StepButton id="on" sign={ChevronRight} />
      <Button
        look="quiet"
        aria-pressed={looping}
        aria-label="Loop playback"
        className={looping ? 'text-ink!' : 'opacity-50'}
        onClick={() => dispatch(sessionActions.looped(!looping))}
      >
        <Repeat size={15} aria-hidden />
      </Button>
      <SoundButton />
      <Select
        label="Playback speed"
        className="border-b-0! text-soft"
        value={String(pace)}
        options={PACES.map((p) => [String(p), `${p * 100} %`] as const)}
        onChange={(p) => dispatch(sessionActions.paced(Number(p)))}
      />
      <Clock />
    </div>
  );
}

/** Has the scene heard or not; only where it has sounds. */
function SoundButton() {
  const dispatch = useAppDispatch();
  const on = useAppSelector((s) => s.session.soundOn);
  const isSounding = useAppSelector((s) => selectPreviewScene(s).soundLaneOrder.length > 0);
  if (!isSounding) return null;
  const Sign = on ? Volume2 : VolumeX;
  return (
    <Button
      look="quiet"
      aria-pressed={on}
      aria-label="Sound"
      title={on ? 'Sound on (A)' : 'Sound off (A)'}
      className={on ? 'text-ink!' : 'opacity-50'}
      onClick={() => dispatch(commandOf('sound on').run)}
    >
      <Sign size={15} aria-hidden />
    </Button>
  );
}

/** Goes a frame on or back. */
function StepButton({ id, sign: Sign }: { id: 'back' | 'on'; sign: typeof ChevronLeft }) {
  const dispatch = useAppDispatch();
  const { name, run } = commandOf(id);
  return (
    <Button look="soft" aria-label={name} title={name} onClick={() => dispatch(run)}>
      <Sign size={17} aria-hidden />
    </Button>
  );
}

/** The frame of the playhead, and its time. */
function Clock() {
  const dispatch = useAppDispatch();
  const { plan } = useAppSelector(selectPreviewPlan);
  const unit = useAppSelector((s) => s.session.unit);
  const fps = framesPerSecond(plan.rate);
  const time = useRef<HTMLSpanElement>(null);
  const count = useRef<HTMLSpanElement>(null);
  useShownFrame((frame) => {
    defined(time.current).textContent = showTime(frame, plan.rate, unit);
    defined(count.current).textContent = String(frame);
  });
  return (
    <>
      <Button
        look="bare"
        className="min-w-[86px] text-left text-display leading-none font-semibold"
        title={`Shown in ${unit}: press for ${NEXT_UNIT[unit]}`}
        onClick={() => dispatch(sessionActions.unitChosen(NEXT_UNIT[unit]))}
      >
        <span ref={time} />
        <span className="sr-only">
          , shown in {unit}: press for {NEXT_UNIT[unit]}
        </span>
      </Button>
      <span className="text-soft" data-testid="frame">
        Frame <span ref={count} /> of {plan.end}
        <span className="max-[1150px]:hidden"> · {Number(fps.toFixed(3))} a second</span>
      </span>
    </>
  );
}

/** How many seams are worth a look; leads to the list. */
function Attention() {
  const dispatch = useAppDispatch();
  const { plan } = useAppSelector(selectPreviewPlan);
  const { count, open } = useSeamSum(plan);
  if (count === 0) return null;
  return (
    <Button
      look="quiet"
      data-tour="seams"
      onClick={() => dispatch(sessionActions.selected({ kind: 'scene' }))}
    >
      {open > 0 ? (
        <>
          <b className="text-watch">▲ {open}</b> of {count} seams need a look
        </>
      ) : (
        <>
          <span className="text-good">●</span> All {count} seams good
        </>
      )}
    </Button>
  );
}
