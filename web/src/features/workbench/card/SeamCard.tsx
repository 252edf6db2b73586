import type {
  CharacterPlan,
  ChoiceLimits,
  Join,
  Rate,
  Seam,
  SeamMeasures,
  SeamPlacing,
  Segment,
  SegmentPlan,
  Thresholds,
} from '@warper/core';
import { PLAIN_CROSSFADE, framesPerSecond, gradeOf, roleWords, defined } from '@warper/core';
import type { KeyboardEvent, ReactNode } from 'react';
import { useMemo } from 'react';
import { Button, Check, Choice, Group } from '../../../ui/controls';
import { GradeMark, SEAM_MEASURES, degrees } from '../../../ui/grade';
import { MeasureName } from '../../../ui/MeasureName';
import { SEAM_TEXTS } from '../../../ui/measures';
import { NumberField } from '../../../ui/NumberField';
import { commit, preview } from '../../../store/edits';
import { seamOf } from '../../../store/plan';
import { selectPreviewScene } from '../../../store/selectors';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { CurveChoice } from './CurveChoice';
import { FootfallGroup } from './FootfallGroup';
import { FitChoice, rootPlace } from './FitChoice';
import { LimitsGroup } from './LimitsGroup';
import { MatchList } from './MatchList';
import { ChoiceLine } from './ChoiceLine';
import { joinEdit, settling, stepping } from './joinEdit';
import { unfitted } from './unfitted';

interface Props {
  readonly segment: Segment;
  readonly character: CharacterPlan;
  /** Index of the incoming segment. */
  readonly index: number;
  readonly rate: Rate;
}

/** A seam: its kind and length, how the incoming segment is fitted, and what is measured, with and without the fit. */
export function SeamCard({ segment, character, index, rate }: Props) {
  const dispatch = useAppDispatch();
  const before = defined(character.segments[index - 1]);
  const gap = Math.max(0, segment.start - before.end);
  const after = defined(character.segments[index]);
  const current = seamOf(character, index - 1, rate);
  const plain = useMemo(() => unfitted(character, index, framesPerSecond(rate)), [character, index, rate]);
  const seam = (values: Partial<SeamPlacing>): void =>
    void dispatch(commit({ type: 'seam', segment: segment.id, values }));
  // One click, one edit: a cut neither overlaps nor settles.
  const joinBy = (next: Join): void => void dispatch(commit(joinEdit(segment, next, after.overlap, rate)));
  const crossfade = segment.seam.kind === 'crossfade' ? segment.seam : PLAIN_CROSSFADE;
  return (
    <>
      <p className="text-soft">
        Seam {index} of {character.segments.length - 1} · {character.character.name}
      </p>
      <h2 className="mb-2 text-title leading-tight font-bold">
        {before.name} → {after.name}
      </h2>
      <div role="group" aria-label="Kind of seam" className="mb-2 grid grid-cols-4 gap-1.5">
        <Kind name="cut" on={current.kind === 'cut'} onClick={() => joinBy({ kind: 'cut' })} />
        <Kind name="crossfade" on={current.kind === 'crossfade'} onClick={() => joinBy(crossfade)} />
        <Kind
          name="settle"
          on={current.kind === 'settle'}
          onClick={() => joinBy(settling(segment.seam, rate))}
        />
        <Kind name="step" on={current.kind === 'step'} onClick={() => joinBy(stepping(segment.seam))} />
      </div>
      <ChoiceLine segment={segment} character={character} measures={current} />
      <MeasureTable
        plain={plain}
        now={current}
        thresholds={character.thresholds}
        hold={<WithoutFit segment={segment} />}
      />
      <MatchList key={segment.id} segment={segment.id} />
      <Group title="Join">
        <JoinFields segment={segment} after={after} now={current} gap={gap} rate={rate} seam={seam} />
        <PlacingFields segment={segment} character={character} after={after} rate={rate} seam={seam} />
      </Group>
      {segment.seam.kind === 'step' && (
        <FootfallGroup
          join={segment.seam}
          after={after}
          onPreview={(join) =>
            void dispatch(preview(join && { type: 'seam', segment: segment.id, values: {}, join }))
          }
          onChange={joinBy}
        />
      )}
      <NudgeGroup nudge={segment.seam.nudge} onChange={(nudge) => seam({ nudge })} />
      <SeamLimits segment={segment} />
      <p className="mt-2 text-note text-soft">
        Placed at {current.move.x.toFixed(2)}, {current.move.z.toFixed(2)} m, turned{' '}
        {degrees(current.move.turn)}. The largest gap is at the {jointWords(character, current.worstJoint)}.
      </p>
    </>
  );
}

/** What the choice of a seam keeps to: its own limits, or those of the scene. */
function SeamLimits({ segment }: Pick<Props, 'segment'>) {
  const dispatch = useAppDispatch();
  const general = useAppSelector((s) => selectPreviewScene(s).choice);
  const { limits } = segment.seam;
  const set = (values: ChoiceLimits | null): void =>
    void dispatch(commit({ type: 'seam', segment: segment.id, values: { limits: values } }));
  return (
    <LimitsGroup
      title={limits ? 'Limits of its choice' : 'Limits of its choice, as in the scene'}
      limits={limits ?? general}
      onChange={set}
    >
      {limits && (
        <div className="flex justify-end">
          <Button look="quiet" onClick={() => set(null)}>
            As in the scene
          </Button>
        </div>
      )}
    </LimitsGroup>
  );
}

/** What a joint is called: the part of the body where that is known, else its name in the file. */
function jointWords({ skeleton }: CharacterPlan, name: string): string {
  const role = skeleton.roles[skeleton.names.indexOf(name)];
  return role ? roleWords(role) : `joint ${name}`;
}

type Now = ReturnType<typeof seamOf>;

interface MeasureProps {
  readonly plain: SeamMeasures;
  readonly now: Now;
  readonly thresholds: Thresholds;
  /** What shows the seam without its fit. */
  readonly hold: ReactNode;
}

/** Held down, it shows the seam in the view as it would be without the fit. */
function WithoutFit({ segment }: { readonly segment: Segment }) {
  const dispatch = useAppDispatch();
  const show = (): void => {
    const join: Join | undefined = segment.seam.kind === 'settle' ? { kind: 'cut' } : undefined;
    dispatch(preview({ type: 'seam', segment: segment.id, values: { fit: 'free' }, join }));
  };
  const hide = (): void => void dispatch(preview(null));
  const isKey = (e: KeyboardEvent): boolean => e.key === ' ' || e.key === 'Enter';
  return (
    <Button
      look="bare"
      className="border-b border-dotted border-soft hover:border-ink"
      title="Hold down to see it in the view"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        show();
      }}
      onPointerUp={hide}
      onPointerCancel={hide}
      onBlur={hide}
      onKeyDown={(e) => isKey(e) && !e.repeat && show()}
      onKeyUp={(e) => isKey(e) && hide()}
    >
      Without fit
    </Button>
  );
}

/** What is measured without the fit, and now. */
function MeasureTable({ plain, now, thresholds, hold }: MeasureProps) {
  return (
    <table className="mb-2.5 w-full border-t text-right">
      <caption className="sr-only">Measures of the seam, without a fit and now</caption>
      <thead className="text-soft">
        <tr>
          <th className="pt-2 text-left font-normal">Measure</th>
          <th className="pt-2 font-normal">{hold}</th>
          <th className="pt-2 font-normal">Now</th>
        </tr>
      </thead>
      <tbody>
        {SEAM_MEASURES.map(([, key, show]) => (
          <tr key={key}>
            <th className="text-left font-normal text-soft">
              <MeasureName text={SEAM_TEXTS[key]} />
            </th>
            <td>{show(plain[key])}</td>
            <td>
              <GradeMark grade={gradeOf(now[key], thresholds[key])} /> {show(now[key])}
            </td>
          </tr>
        ))}
        <tr>
          <th className="text-left font-normal text-soft">Speed</th>
          <td colSpan={2}>
            {now.speedBefore.toFixed(2)} → {now.speedAfter.toFixed(2)} m/s
          </td>
        </tr>
      </tbody>
    </table>
  );
}

interface FieldProps {
  readonly segment: Segment;
  /** The incoming segment as it is laid out. */
  readonly after: SegmentPlan;
  readonly rate: Rate;
  readonly seam: (values: Partial<SeamPlacing>) => void;
}

interface JoinProps extends FieldProps {
  readonly now: Now;
  readonly gap: number;
}

/** How the two motions go over into each other. */
function JoinFields(props: JoinProps) {
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
  const { segment, after, joinBy } = props;
  const crossfade = segment.seam.kind === 'crossfade' ? segment.seam : PLAIN_CROSSFADE;
  return (
    <>
      <CurveChoice curve={crossfade.curve} onChange={(curve) => joinBy({ ...crossfade, curve })} />
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
function PlacingFields({ segment, character, after, rate, seam }: FieldProps & Pick<Props, 'character'>) {
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
function NudgeGroup(props: { nudge: Seam['nudge']; onChange: (nudge: Seam['nudge']) => void }) {
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

type KindName = Join['kind'];

/** Stitches of each kind: the x of their lower and upper ends, and their weight. */
const STITCHES: Record<KindName, readonly (readonly [number, number, number])[]> = {
  cut: [[30, 30, 2.2]],
  crossfade: [10, 17, 24, 31, 38, 45].map((x) => [x, x + 5, 1.5] as const),
  settle: [12, 19, 26, 33, 40].map((x, i) => [x, x + 5, 2.3 - i * 0.45] as const),
  step: [],
};

function Kind({ name, on, onClick }: { name: KindName; on: boolean; onClick: () => void }) {
  return (
    <Button
      look="bare"
      aria-pressed={on}
      onClick={onClick}
      className={`rounded-md border pt-1 pb-0.5 text-note ${on ? 'border-ink ring-1 ring-ink' : 'hover:border-soft'}`}
    >
      <svg width={60} height={17} className="mx-auto block" aria-hidden>
        {STITCHES[name].map(([a, b, weight], i) => (
          <line
            key={i}
            x1={a}
            y1={16}
            x2={b}
            y2={2}
            stroke="var(--ink)"
            strokeWidth={weight}
            strokeLinecap="round"
          />
        ))}
        {name === 'step' && (
          <g stroke="var(--ink)" fill="none" strokeWidth={1.5} strokeLinecap="round">
            <path d="M 8 6 H 16 Q 24 -3 32 6 H 52" />
            <path d="M 8 14 H 28 Q 36 5 44 14 H 52" />
          </g>
        )}
      </svg>
      <span className="capitalize">{name}</span>
    </Button>
  );
}
