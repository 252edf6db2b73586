import type {
  CharacterPlan,
  Join,
  Rate,
  Seam,
  SeamMeasures,
  SeamPlacing,
  Segment,
  SegmentPlan,
} from '@warper/core';
import { PLAIN_CROSSFADE, framesPerSecond } from '@warper/core';
import { useMemo } from 'react';
import { commit, preview } from '../../../store/edits';
import { useAppDispatch } from '../../../store/store';
import { Button, Check, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { CurveChoice } from './CurveChoice';
import { FitChoice, rootPlace } from './FitChoice';
import { joinEdit } from './joinEdit';

interface FieldProps {
  readonly segment: Segment;
  /** The incoming segment as it is laid out. */
  readonly after: SegmentPlan;
  readonly rate: Rate;
  readonly seam: (values: Partial<SeamPlacing>) => void;
}

interface JoinProps extends FieldProps {
  readonly now: SeamMeasures;
  readonly gap: number;
}

/** How the two motions go over into each other. */
export function JoinFields(props: JoinProps) {
  const { segment, after, now, gap, rate, seam } = props;
  const dispatch = useAppDispatch();
  const perSecond = framesPerSecond(rate);
  const joinBy = (next: Join): void => void dispatch(commit(joinEdit(segment, next, after.overlap, rate)));
  return (
    <>
      {now.kind === 'settle' ? (
        <NumberField
          label="Settle"
          unit="f"
          value={now.settle}
          least={1}
          framesPerSecond={perSecond}
          onChange={(frames) => joinBy({ kind: 'settle', frames: Math.round(frames) })}
        />
      ) : (
        <OverlapFields segment={segment} after={after} rate={rate} />
      )}
      {now.kind === 'crossfade' && <CrossfadeFields segment={segment} after={after} joinBy={joinBy} />}
      {gap > 0 && (
        <Choice
          label={`${gap} frames between`}
          value={segment.seam.gap}
          options={GAPS}
          onChange={(between) => seam({ gap: between })}
        />
      )}
      {now.kind !== 'settle' && gap === 0 && (
        <NumberField
          label="Overlap (keep timing)"
          unit="f"
          value={after.overlap}
          least={0}
          framesPerSecond={perSecond}
          onChange={(overlap) => dispatch(commit({ type: 'widen seam', segment: segment.id, overlap }))}
        />
      )}
    </>
  );
}

/** Frames that both motions share; the ones that suit them at a press. */
function OverlapFields({ segment, after, rate }: Pick<FieldProps, 'segment' | 'after' | 'rate'>) {
  const dispatch = useAppDispatch();
  const share = (length: number | 'auto'): void =>
    void dispatch(commit({ type: 'overlap', segment: segment.id, frames: length }));
  return (
    <>
      <NumberField
        label="Overlap"
        unit="f"
        limit="neither clip has more frames to share"
        value={after.overlap}
        least={0}
        framesPerSecond={framesPerSecond(rate)}
        onChange={share}
      />
      <div className="flex justify-end">
        <Button look="quiet" onClick={() => share('auto')}>
          Automatic length
        </Button>
      </div>
    </>
  );
}

function CrossfadeFields(props: Pick<FieldProps, 'segment' | 'after'> & { joinBy: (next: Join) => void }) {
  const dispatch = useAppDispatch();
  const { segment, after, joinBy } = props;
  const crossfade = segment.seam.kind === 'crossfade' ? segment.seam : PLAIN_CROSSFADE;
  return (
    <>
      <CurveChoice
        curve={crossfade.curve}
        onPreview={(curve) =>
          void dispatch(
            preview(
              curve && { type: 'seam', segment: segment.id, values: {}, join: { ...crossfade, curve } },
            ),
          )
        }
        onChange={(curve) => joinBy({ ...crossfade, curve })}
      />
      <Check
        label="In step"
        checked={crossfade.inStep}
        onChange={(inStep) => joinBy({ ...crossfade, inStep })}
      />
      {after.stepRemark && <p className="text-watch">{after.stepRemark}</p>}
    </>
  );
}

/** Where the seam is, and how the incoming segment is placed. */
export function PlacingFields({
  segment,
  character,
  after,
  rate,
  seam,
}: FieldProps & { readonly character: CharacterPlan }) {
  const dispatch = useAppDispatch();
  const here = useMemo(() => rootPlace(character, after.start), [character, after.start]);
  return (
    <>
      <NumberField
        label="At frame"
        value={after.start}
        framesPerSecond={framesPerSecond(rate)}
        onChange={(frame) =>
          dispatch(
            commit({ type: 'shift seam', segment: segment.id, frames: Math.round(frame) - after.start }),
          )
        }
      />
      <FitChoice
        fit={segment.seam.fit}
        joints={character.skeleton.names}
        here={here}
        onChange={(fit) => seam({ fit })}
      />
      <Check label="Match facing" checked={segment.seam.facing} onChange={(facing) => seam({ facing })} />
      <Check label="Match height" checked={segment.seam.height} onChange={(height) => seam({ height })} />
      {after.fitRemark && <p className="text-watch">{after.fitRemark}</p>}
    </>
  );
}

/** The user's own move on top of the fit. */
export function NudgeGroup(props: { nudge: Seam['nudge']; onChange: (nudge: Seam['nudge']) => void }) {
  const nudge = (values: Partial<Seam['nudge']>): void => props.onChange({ ...props.nudge, ...values });
  return (
    <Group title="Nudge">
      <NumberField
        label="Nudge left"
        unit="m"
        digits={3}
        step={0.01}
        value={props.nudge.x}
        onChange={(x) => nudge({ x })}
      />
      <NumberField
        label="Nudge forward"
        unit="m"
        digits={3}
        step={0.01}
        value={props.nudge.z}
        onChange={(z) => nudge({ z })}
      />
      <NumberField
        label="Nudge turn"
        unit="°"
        digits={1}
        step={1}
        value={props.nudge.turn}
        onChange={(turn) => nudge({ turn })}
      />
    </Group>
  );
}

const GAPS = [
  ['hold', 'Hold last pose'],
  ['ease', 'Ease across'],
  ['rest', 'By the rest pose'],
] as const;
