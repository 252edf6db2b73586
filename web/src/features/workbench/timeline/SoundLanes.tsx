import type { Plan, Scene, Sound, SoundLane } from '@warper/core';
import { beatFrames, defined, framesPerSecond, soundEnd, trimmedSound } from '@warper/core';
import { memo, useMemo } from 'react';
import { commit } from '../../../store/edits';
import { selectHeard } from '../../../store/heard';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { BlockEnds } from './BlockEnds';
import { LINE_ROW, SOUND_ROW } from './geometry';
import { LineLane } from './LineLane';
import { SoundWave } from './SoundWave';
import { useBlockHands } from './useBlockHands';
import type { Sight } from './useViewport';

interface Props {
  readonly scene: Scene;
  readonly plan: Plan;
  readonly sight: Sight;
  /** Pixels from the top of the lanes to the first sound lane. */
  readonly top: number;
}

/** Whether the scene has a lane of lines. */
export const hasLines = ({ lines }: Pick<Scene, 'lines'>): boolean => Object.keys(lines).length > 0;

/** Pixels that the sound lanes and that of the lines fill. */
export const soundHeight = (scene: Scene): number =>
  scene.soundLaneOrder.length * SOUND_ROW + (hasLines(scene) ? LINE_ROW : 0);

/** The lanes at the very bottom: sounds with their waveforms, steps that are heard, and what is said. */
export const SoundLanes = memo(function SoundLanes({ scene, plan, sight, top }: Props) {
  const lanes = scene.soundLaneOrder.map((id) => defined(scene.soundLanes[id]));
  const fps = framesPerSecond(plan.rate);
  const linesTop = top + lanes.length * SOUND_ROW;
  return (
    <>
      {lanes.map((lane, i) => (
        <div key={lane.id} role="group" aria-label={`Sounds of ${lane.name}`}>
          {lane.steps && <HeardSteps lane={lane} fps={fps} sight={sight} top={top + i * SOUND_ROW} />}
          {Object.values(scene.sounds)
            .filter((s) => s.lane === lane.id)
            .map((sound) => (
              <SoundBlock
                key={sound.id}
                {...{ sound, lane, fps, sight }}
                order={scene.soundLaneOrder}
                top={top + i * SOUND_ROW}
              />
            ))}
        </div>
      ))}
      {hasLines(scene) && <LineLane lines={scene.lines} ppf={sight.ppf} top={linesTop} />}
    </>
  );
});

interface StepsProps {
  readonly lane: SoundLane;
  readonly fps: number;
  readonly sight: Sight;
  readonly top: number;
}

/** The steps that a lane makes heard: a stroke for each, as high as it is loud. */
function HeardSteps({ lane, fps, sight: { ppf, left, right }, top }: StepsProps) {
  const heard = useAppSelector(selectHeard);
  const own = useMemo(() => heard.filter((s) => s.id.startsWith(`${lane.id}:`)), [heard, lane.id]);
  const middle = SOUND_ROW / 2;
  const path = own
    .filter(({ start }) => start * fps * ppf >= left - 2 && start * fps * ppf <= right + 2)
    .map(({ start, gain }) => {
      const up = Math.max(2, Math.min(1, gain) * (middle - 6));
      return `M${(start * fps * ppf).toFixed(1)} ${middle - up}v${2 * up}`;
    })
    .join('');
  return (
    <svg
      className="pointer-events-none absolute left-0 overflow-visible"
      style={{ top }}
      width={1}
      height={SOUND_ROW}
      role="img"
      aria-label={`${own.length} steps are heard`}
    >
      <path d={path} stroke="var(--soft)" strokeWidth={2} strokeLinecap="round" fill="none" />
    </svg>
  );
}

interface BlockProps extends StepsProps {
  readonly sound: Sound;
  /** Ids of the sound lanes from top to bottom. */
  readonly order: readonly string[];
}

function SoundBlock({ sound, lane, fps, sight, order, top }: BlockProps) {
  const dispatch = useAppDispatch();
  const { id, name, start } = sound;
  const end = soundEnd(sound, fps);
  const selected = useAppSelector(
    ({ session: { selection } }) => selection.kind === 'sound' && selection.id === id,
  );
  const laneAfter = (down: number): string => {
    const at = order.indexOf(sound.lane) + Math.round(down / SOUND_ROW);
    return defined(order[Math.min(order.length - 1, Math.max(0, at))]);
  };
  const hands = useBlockHands({
    id,
    name,
    start,
    end: Math.round(end),
    select: () => void dispatch(sessionActions.selected({ kind: 'sound', id })),
    moved: (frames, down) => ({
      type: 'change sound',
      sound: id,
      values: { start: start + frames, ...(laneAfter(down) === sound.lane ? {} : { lane: laneAfter(down) }) },
    }),
    remove: () => {
      dispatch(commit({ type: 'remove sound', sound: id }));
      dispatch(sessionActions.selected({ kind: 'scene' }));
    },
  });
  const { ppf } = sight;
  const silent = sound.muted || lane.muted;
  return (
    <>
      <Button
        look="bare"
        data-sound={id}
        aria-label={`${name}, frames ${start} to ${Math.round(end)}${silent ? ', muted' : ''}`}
        aria-pressed={selected}
        className={`absolute z-10 flex cursor-grab touch-none items-start overflow-hidden rounded-sm border bg-raised text-left text-tick ${selected ? 'border-ink ring-1 ring-ink' : 'border-soft'} ${silent ? 'opacity-45' : ''}`}
        style={{
          left: start * ppf,
          width: Math.max(3, (end - start) * ppf),
          top: top + 3,
          height: SOUND_ROW - 6,
        }}
        {...hands}
      >
        <SoundWave sound={sound} fps={fps} sight={sight} height={SOUND_ROW - 8} />
        <Beats sound={sound} fps={fps} ppf={ppf} />
        <span className="sticky left-1 max-w-full truncate px-1.5 font-semibold">{name}</span>
      </Button>
      {selected && <Ends sound={sound} fps={fps} top={top + SOUND_ROW / 2} ppf={ppf} />}
    </>
  );
}

/** The beats of a sound as ticks at its foot. */
function Beats({ sound, fps, ppf }: { readonly sound: Sound; readonly fps: number; readonly ppf: number }) {
  const path = useMemo(
    () =>
      beatFrames(sound, fps)
        .map((f) => `M${((f - sound.start) * ppf).toFixed(1)} 0v5`)
        .join(''),
    [sound, fps, ppf],
  );
  if (path === '') return null;
  return (
    <svg className="absolute bottom-0 left-0 overflow-visible" width={1} height={5} aria-hidden>
      <path d={path} stroke="var(--signal)" strokeWidth={1.5} fill="none" />
    </svg>
  );
}

/** The ends of the sound in hand. */
function Ends({
  sound,
  fps,
  top,
  ppf,
}: Pick<BlockProps, 'sound' | 'fps' | 'top'> & { readonly ppf: number }) {
  const kept = useAppSelector((s) => s.scene.document?.sounds[sound.id]);
  if (!kept) return null;
  const spanOf = (of: Sound) => ({ start: of.start, end: soundEnd(of, fps) });
  return (
    <BlockEnds
      {...{ top, ppf }}
      id={sound.id}
      name={sound.name}
      shown={spanOf(sound)}
      kept={spanOf(kept)}
      trim={(edge, frame) => ({
        type: 'change sound',
        sound: sound.id,
        values: trimmedSound(kept, edge, frame, fps),
      })}
    />
  );
}
