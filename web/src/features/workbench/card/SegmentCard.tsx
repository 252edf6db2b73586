import type { CharacterPlan, LayerLane, Rate, Segment, SegmentPlan, SegmentValues } from '@warper/core';
import { framesPerSecond, defined } from '@warper/core';
import { Button, Check, Group } from '../../../ui/controls';
import { DialFields } from '../../../ui/DialFields';
import { NumberField } from '../../../ui/NumberField';
import { seconds } from '../../../ui/time';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import { withFade } from '../timeline/layerShape';
import { LinkGroup } from './LinkGroup';
import { LookGroup } from './LookGroup';
import { MeetGroup } from './MeetGroup';
import { OnBeatGroup } from './OnBeatGroup';
import { ReplaceClip } from './ReplaceClip';
import { LoopFinder } from '../../../ui/LoopFinder';
import { StepsGroup } from './StepsGroup';
import { TimeGroup } from './TimeGroup';
import { TravelGroup } from './TravelGroup';
import { freshId } from '../../../data/freshId';

interface Props {
  readonly segment: Segment;
  readonly character: CharacterPlan;
  /** Its row: the segments of the character's lane, or of a layer. */
  readonly row: readonly SegmentPlan[];
  readonly index: number;
  /** The layer that it is on; null on the character's own lane. */
  readonly layer: LayerLane | null;
  readonly rate: Rate;
}

/** A segment: where it is, what it plays, and how. */
export function SegmentCard({ segment, character, row, index, layer, rate }: Props) {
  const dispatch = useAppDispatch();
  const plan = defined(row[index]);
  const fps = framesPerSecond(rate);
  const change = (values: SegmentValues): void =>
    void dispatch(commit({ type: 'change', segment: segment.id, values }));
  const mixed = Math.abs(plan.clip.rate - fps) > 0.01;
  return (
    <>
      <p className="text-soft">
        Segment {index + 1} of {row.length} · {character.character.name}
        {layer === null ? '' : `, layer ${layer.name}`}
      </p>
      <h2 className="mb-1 text-title font-bold">{segment.name}</h2>
      <p className="pb-2 text-soft">
        {plan.clip.frames} samples at {Number(plan.clip.rate.toFixed(3))} a second
        {mixed ? `, shown at ${Number(fps.toFixed(3))}` : ''}
      </p>
      <PlaceGroup segment={segment} plan={plan} fps={fps} change={change} />
      <PartGroup segment={segment} plan={plan} change={change} />
      <TimeGroup segment={segment} plan={plan} framesPerSecond={fps} change={change} />
      {layer === null && (
        <>
          <Group title="Posture">
            <DialFields dials={segment.dials} onChange={(dials) => change({ dials })} />
          </Group>
          <LookGroup
            look={segment.look}
            plan={character}
            nothing={character.character.look ? 'As the character' : 'Nothing'}
            onChange={(look) => change({ look })}
          />
        </>
      )}
      {layer === null && <TravelGroup segment={segment} plan={plan} character={character} change={change} />}
      {layer === null && <MeetGroup segment={segment} character={character} />}
      <OnBeatGroup key={segment.id} segment={segment} plan={plan} joins={index > 0} />
      <LinkGroup of="segment" id={segment.id} />
      {layer === null ? (
        <StepsGroup plan={plan} clip={segment.clip} />
      ) : (
        <FadeGroup row={row} index={index} fps={fps} change={change} />
      )}
      <Actions segment={segment} index={index} layer={layer} />
    </>
  );
}

interface PartProps {
  readonly segment: Segment;
  readonly plan: SegmentPlan;
  readonly change: (values: SegmentValues) => void;
}

/** Where it starts, and how many frames it fills. */
function PlaceGroup({ segment, plan, fps, change }: PartProps & { readonly fps: number }) {
  const dispatch = useAppDispatch();
  const frames = plan.end - plan.start;
  return (
    <Group title="Place">
      <NumberField
        label="Start"
        unit="f"
        value={plan.start}
        least={0}
        framesPerSecond={fps}
        onChange={(start) => dispatch(commit({ type: 'move', segment: segment.id, start }))}
      />
      <NumberField
        label="Length"
        unit="f"
        value={frames}
        least={1}
        framesPerSecond={fps}
        onChange={(length) =>
          change({ length: Math.max(1, Math.round(length) - segment.hold.start - segment.hold.end) })
        }
      />
      <p className="text-right text-note text-soft">
        {seconds(frames / fps)}, ends before {plan.end}
      </p>
    </Group>
  );
}

interface FadeProps extends Pick<Props, 'row' | 'index'> {
  readonly fps: number;
  readonly change: (values: SegmentValues) => void;
}

/** How the segment of a layer comes and goes: by itself, or crossfaded with its neighbours. */
function FadeGroup({ row, index, fps, change }: FadeProps) {
  const { settings, overlap, end, start } = defined(row[index]);
  const next = row[index + 1];
  const meets = { in: overlap > 0, out: next !== undefined && next.start < end };
  return (
    <Group title="Fades">
      {(['in', 'out'] as const).map((side) =>
        meets[side] ? (
          <p key={side} className="text-soft">
            {side === 'in'
              ? `Crossfades with the one before, ${overlap} f.`
              : `Crossfades with the next, ${next?.overlap ?? 0} f.`}
          </p>
        ) : (
          <NumberField
            key={side}
            label={`Fade ${side}`}
            unit="f"
            least={0}
            value={settings.fade[side]}
            framesPerSecond={fps}
            onChange={(frames) => change({ fade: withFade(settings.fade, side, frames, end - start) })}
          />
        ),
      )}
    </Group>
  );
}

/** Which samples of its clip it plays, and how often. */
function PartGroup({ segment, plan, change }: PartProps) {
  const dispatch = useAppDispatch();
  return (
    <Group title="Part of the clip">
      <NumberField
        label="Clip start"
        value={segment.in}
        least={0}
        most={segment.out - 1}
        onChange={(v) => change({ in: v })}
      />
      <NumberField
        label="Clip end"
        value={segment.out}
        least={segment.in + 1}
        most={plan.clip.frames}
        onChange={(v) => change({ out: v })}
      />
      <Check
        label="Loop"
        checked={segment.loop}
        onChange={(loop) => change(loop || segment.repeat === 1 ? { loop } : { loop, repeat: 1 })}
      />
      <NumberField
        label="Repeats"
        unit="×"
        digits={2}
        value={segment.repeat}
        least={0.05}
        onChange={(repeat) => change(segment.loop || repeat === 1 ? { repeat } : { repeat, loop: true })}
      />
      {segment.loop && (
        <NumberField
          label="Loop offset"
          digits={1}
          value={segment.phase}
          least={0}
          most={plan.period}
          onChange={(phase) =>
            dispatch(commit({ type: 'slip', segment: segment.id, samples: phase - segment.phase }))
          }
        />
      )}
      <LoopFinder
        key={segment.clip}
        clip={plan.clip}
        onChoose={(l) => change({ in: l.in, out: l.out, loop: true, length: null })}
      />
    </Group>
  );
}

/** What else can be done with it. */
function Actions({ segment, index, layer }: Pick<Props, 'segment' | 'index' | 'layer'>) {
  const dispatch = useAppDispatch();
  return (
    <div className="flex flex-wrap gap-2 border-t pt-3">
      {index > 0 && layer === null && (
        <Button onClick={() => dispatch(sessionActions.selected({ kind: 'seam', id: segment.id }))}>
          Seam before
        </Button>
      )}
      {layer !== null && (
        <Button onClick={() => dispatch(sessionActions.selected({ kind: 'layer', id: layer.id }))}>
          Layer
        </Button>
      )}
      <ReplaceClip segment={segment.id} clip={segment.clip} />
      <Button onClick={() => dispatch(commit({ type: 'duplicate', segment: segment.id, id: freshId('g') }))}>
        Duplicate
      </Button>
      <Button
        onClick={() => {
          dispatch(commit({ type: 'remove', segment: segment.id, close: true }));
          dispatch(sessionActions.selected({ kind: 'scene' }));
        }}
      >
        Remove
      </Button>
    </div>
  );
}
