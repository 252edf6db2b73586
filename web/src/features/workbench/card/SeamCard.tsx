import type {
  CharacterPlan,
  ChoiceLimits,
  Join,
  Rate,
  SeamMeasures,
  SeamPlacing,
  Segment,
} from '@warper/core';
import { PLAIN_CROSSFADE, defined, framesPerSecond, roleWords, seamWithLayers } from '@warper/core';
import { useMemo } from 'react';
import { commit, preview } from '../../../store/edits';
import { seamOf } from '../../../store/plan';
import { selectPreviewScene } from '../../../store/selectors';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Group } from '../../../ui/controls';
import { SEAM_MEASURES, degrees } from '../../../ui/grade';
import type { KnownStudy } from '../desk/useSeamStudy';
import { useSeamStudy } from '../desk/useSeamStudy';
import { useHeldKey } from '../commands/useHeldKey';
import { ChoiceLine } from './ChoiceLine';
import { FootfallGroup } from './FootfallGroup';
import { joinEdit, settling, stepping } from './joinEdit';
import { LimitsGroup } from './LimitsGroup';
import { MatchList } from './MatchList';
import { JoinFields, NudgeGroup, PlacingFields } from './SeamFields';
import { SeamKind } from './SeamKind';
import type { OtherWay } from './SeamMeasureTable';
import { SeamMeasureTable, withoutFit } from './SeamMeasureTable';
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
  const known = useSeamStudy(segment.id);
  const others = waysOf(segment, plain, known);
  useHeldKey(
    'u',
    () => dispatch(preview(withoutFit(segment))),
    () => dispatch(preview(null)),
  );
  const seam = (values: Partial<SeamPlacing>): void =>
    void dispatch(commit({ type: 'seam', segment: segment.id, values }));
  // One click, one edit: a cut neither overlaps nor settles.
  const joinBy = (next: Join): void => void dispatch(commit(joinEdit(segment, next, after.overlap, rate)));
  const crossfade = segment.seam.kind === 'crossfade' ? segment.seam : PLAIN_CROSSFADE;
  return (
    <>
      <SeamTitle character={character} index={index} />
      <div role="group" aria-label="Kind of seam" className="mb-2 grid grid-cols-4 gap-1.5">
        <SeamKind name="cut" on={current.kind === 'cut'} onClick={() => joinBy({ kind: 'cut' })} />
        <SeamKind name="crossfade" on={current.kind === 'crossfade'} onClick={() => joinBy(crossfade)} />
        <SeamKind
          name="settle"
          on={current.kind === 'settle'}
          onClick={() => joinBy(settling(segment.seam, rate))}
        />
        <SeamKind name="step" on={current.kind === 'step'} onClick={() => joinBy(stepping(segment.seam))} />
      </div>
      <ChoiceLine segment={segment} character={character} measures={current} />
      <SeamMeasureTable others={others} now={current} thresholds={character.thresholds} />
      <LayersOver character={character} index={index} rate={rate} />
      <MatchList segment={segment.id} known={known} />
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

/** Which seam it is. */
function SeamTitle({ character, index }: Pick<Props, 'character' | 'index'>) {
  const [before, after] = [character.segments[index - 1], character.segments[index]];
  return (
    <>
      <p className="text-soft">
        Seam {index} of {character.segments.length - 1} · {character.character.name}
      </p>
      <h2 className="mb-2 text-title leading-tight font-bold">
        {before?.name} → {after?.name}
      </h2>
    </>
  );
}

/** What the seam measures with the layers that are over it; nothing where none are. */
function LayersOver({ character, index, rate }: Pick<Props, 'character' | 'index' | 'rate'>) {
  const over = useMemo(
    () => seamWithLayers(character, index - 1, framesPerSecond(rate)),
    [character, index, rate],
  );
  if (!over) return null;
  const values = SEAM_MEASURES.map(([name, key, show]) => `${name.toLowerCase()} ${show(over[key])}`);
  return (
    <p className="mb-2.5 text-note text-soft">
      Measured below the layers. With them: {values.join(', ')}; most at the{' '}
      {jointWords(character, over.worstJoint)}.
    </p>
  );
}

/** The other ways to join that a seam is compared with, as far as they are known. */
function waysOf(segment: Segment, plain: SeamMeasures, known: KnownStudy): OtherWay[] {
  const study = known.study?.segment === segment.id ? known.study : null;
  return [
    { name: 'Without fit', edit: withoutFit(segment), measures: plain },
    ...(study?.plain ? [{ name: 'Plain', ...study.plain }] : []),
    ...(study?.automatic ? [{ name: 'Auto', ...study.automatic }] : []),
  ];
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
