import type { Edit, OnBeats, Segment, SegmentPlan, Sound } from '@warper/core';
import { beatFrames, fitToBeats, framesPerSecond } from '@warper/core';
import { useState } from 'react';
import { commit } from '../../../store/edits';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { plantedSpans } from '../timeline/drawing/stepSpans';

interface Props {
  readonly segment: Segment;
  readonly plan: SegmentPlan;
  /** Whether it joins one before it, which a move would part it from. */
  readonly joins: boolean;
}

/** What of a cycle falls on a beat. */
type Stroke = 'start' | 'playhead' | 'step';

/** Times a loop to the beats of a sound: as many whole beats to a cycle, its strokes on them. */
export function OnBeatGroup({ segment, plan, joins }: Props) {
  const scene = useAppSelector(selectPreviewScene);
  const sounds = Object.values(scene.sounds).filter((s) => s.beats.length > 1);
  if (!segment.loop || sounds.length === 0) return null;
  return (
    <Group title="On the beat">
      <Fields {...{ segment, plan, joins, sounds }} />
    </Group>
  );
}

interface FieldsProps extends Props {
  readonly sounds: readonly Sound[];
}

/** What is chosen of how it goes with a beat. */
interface Chosen {
  readonly sound: string;
  readonly stroke: Stroke;
  /** Null for as many as come nearest to its own pace. */
  readonly beats: number | null;
  readonly moves: 'segment' | 'sound';
}

function Fields({ segment, plan, joins, sounds }: FieldsProps) {
  const dispatch = useAppDispatch();
  const fps = framesPerSecond(useAppSelector((s) => selectPreviewPlan(s).plan.rate));
  const playhead = useAppSelector((s) => s.session.frame);
  const steps = plantedSpans(plan).filter((s) => s.from > 0);
  const [chosen, choose] = useState<Chosen>({
    sound: sounds[0]?.id ?? '',
    stroke: steps.length > 1 ? 'step' : 'start',
    beats: null,
    moves: joins ? 'sound' : 'segment',
  });
  const sound = sounds.find((s) => s.id === chosen.sound) ?? sounds[0];
  if (!sound) return null;
  const begin = plan.start + segment.hold.start;
  const cycleFrames = (plan.end - segment.hold.end - begin) / segment.repeat;
  const at = { start: 0, playhead: playhead - begin, step: (steps[0]?.from ?? 0) - segment.hold.start };
  const share = at[chosen.stroke] / cycleFrames;
  const loop = { start: begin, cycles: segment.repeat, cycleFrames, stroke: share - Math.floor(share) };
  const beats = beatFrames(sound, fps);
  const fit = fitToBeats(beats, chosen.beats === null ? loop : { ...loop, beatsOfCycle: chosen.beats });
  if (!fit) return null;
  const apply = (): void =>
    void dispatch(commit(fitEdit({ segment, plan, sound, fit, by: fit.start - begin, moves: chosen.moves })));
  return (
    <>
      <Choices {...{ chosen, sounds, sound }} canStep={steps.length > 0} choose={choose} />
      <NumberField
        label="Beats a cycle"
        least={1}
        most={16}
        value={fit.beatsOfCycle}
        onChange={(value) => choose({ ...chosen, beats: Math.round(value) })}
      />
      <BeatRemark now={offNow(beats, loop)} fit={fit} />
      <div>
        <Button onClick={apply}>Fit to the beat</Button>
      </div>
    </>
  );
}

const BeatRemark = ({ now, fit }: { readonly now: number; readonly fit: OnBeats }) => (
  <p className="text-note text-soft" role="status">
    {now <= 1 ? '●' : '▲'} Now {now.toFixed(1)} f off the beat at most; fitted {fit.off.toFixed(1)} f, at{' '}
    {fit.pace.toFixed(2)} of its pace.
  </p>
);

interface ChoicesProps extends Pick<FieldsProps, 'sounds'> {
  readonly chosen: Chosen;
  readonly sound: Sound;
  readonly canStep: boolean;
  readonly choose: (chosen: Chosen) => void;
}

function Choices({ chosen, sounds, sound, canStep, choose }: ChoicesProps) {
  return (
    <>
      <Choice
        label="Sound"
        value={sound.id}
        options={sounds.map((s) => [s.id, s.name] as const)}
        onChange={(id) => choose({ ...chosen, sound: id })}
      />
      <Choice
        label="On a beat"
        value={chosen.stroke}
        options={[
          ['start', 'Start of the cycle'],
          ['playhead', 'Pose at the playhead'],
          ...(canStep ? [['step', 'A foot that comes down'] as const] : []),
        ]}
        onChange={(stroke) => choose({ ...chosen, stroke })}
      />
      <Choice
        label="Moves"
        value={chosen.moves}
        options={[
          ['segment', 'This segment'],
          ['sound', 'The sound'],
        ]}
        onChange={(moves) => choose({ ...chosen, moves })}
      />
    </>
  );
}

interface Fitting extends Pick<FieldsProps, 'segment' | 'plan'>, Pick<Chosen, 'moves'> {
  readonly sound: Sound;
  readonly fit: OnBeats;
  /** Frames by which the strokes come later to meet their beats. */
  readonly by: number;
}

/** The edit that gives a loop the length of its beats, and brings it and the sound together. */
function fitEdit({ segment, plan, sound, fit, by, moves }: Fitting): Edit {
  const length: Edit = { type: 'change', segment: segment.id, values: { length: fit.length } };
  const place: Edit =
    moves === 'segment'
      ? { type: 'move', segment: segment.id, start: plan.start + by }
      : { type: 'change sound', sound: sound.id, values: { start: sound.start - by } };
  return {
    type: 'several',
    label: `${segment.name} on the beat`,
    edits: by === 0 ? [length] : [length, place],
  };
}

/** How far the strokes are from their beats as it stands, frames. */
function offNow(
  beats: readonly number[],
  {
    start,
    cycles,
    cycleFrames,
    stroke,
  }: { start: number; cycles: number; cycleFrames: number; stroke: number },
): number {
  let off = 0;
  for (let i = 0; stroke + i < cycles; i++) {
    const at = start + (stroke + i) * cycleFrames;
    off = Math.max(off, Math.min(...beats.map((b) => Math.abs(b - at))));
  }
  return off;
}
