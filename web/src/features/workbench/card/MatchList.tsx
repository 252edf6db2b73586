import type { Edit, Moments, Scene, SeamMap } from '@warper/core';
import { joinAt } from '@warper/core';
import { library } from '../../../data/pageLibrary';
import { commit, preview } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Group } from '../../../ui/controls';
import { GradeMark, cm, worstMeasure } from '../../../ui/grade';
import type { KnownStudy } from '../desk/useSeamStudy';
import { MatchMap } from './MatchMap';

interface Props {
  /** The incoming segment. */
  readonly segment: string;
  readonly known: KnownStudy;
}

/**
 * The moments around a seam that could meet: as a map, and the best of them as a list, with the measure that the join would have.
 * What the pointer is on is shown in the view and on the desk; what is chosen is joined there.
 */
export function MatchList({ segment, known: { study, scene, isBusy, problem } }: Props) {
  const kind = useAppSelector((s) => s.scene.document?.segments[segment]?.seam.kind);
  // What can meet depends on the kind of seam: a cut has no overlap to meet in the middle of.
  const current = study?.segment === segment && scene?.segments[segment]?.seam.kind === kind ? study : null;
  const map = current?.map;
  return (
    <Group title="Matching frames">
      {problem && <p className="text-watch">{problem}</p>}
      {!current && isBusy && (
        // As high as what comes, or what is below would move under the pointer.
        <p className="min-h-64 text-soft" role="status">
          Comparing the two motions…
        </p>
      )}
      {current && !map && (
        <p className="text-soft">There is a gap here, or one motion goes on: no frames can be matched.</p>
      )}
      {map && scene && <Matches segment={segment} map={map} studied={scene} />}
    </Group>
  );
}

interface MatchesProps {
  readonly segment: string;
  readonly map: SeamMap;
  /** The scene that the map was made from. */
  readonly studied: Scene;
}

function Matches({ segment, map, studied }: MatchesProps) {
  const dispatch = useAppDispatch();
  const compare = (moments: Moments | null): void =>
    void dispatch(sessionActions.compared(moments && { segment, out: moments.out, in: moments.in }));
  // In the scene that was studied: it says how much of either clip is used, which means the same after a quick edit of either.
  const editAt = (moments: Moments): Edit | null => joinAt(studied, segment, moments, library);
  const attempt = (moments: Moments | null): void => {
    compare(null);
    dispatch(preview(moments && editAt(moments)));
  };
  const choose = (moments: Moments): void => {
    const edit = editAt(moments);
    compare(null);
    if (edit) dispatch(commit(edit));
  };
  return (
    <>
      <MatchMap
        key={`${map.rows}-${map.columns}-${map.now.out}-${map.now.in}`}
        map={map}
        onHover={compare}
        onTry={attempt}
        onChoose={choose}
      />
      {map.pairs.length === 0 && <p className="text-soft">No two frames stand out within reach.</p>}
      <ul aria-label="Best matches">
        {map.pairs.map((p, i) => (
          <li key={`${p.out}-${p.in}`}>
            <Button
              look="row"
              aria-pressed={p.out === map.now.out && p.in === map.now.in}
              title={`The two poses are ${cm(p.distanceCm)} apart`}
              onClick={() => choose(p)}
              onPointerEnter={() => compare(p)}
              onPointerLeave={() => compare(null)}
              onFocus={() => compare(p)}
              onBlur={() => compare(null)}
            >
              <span>
                <span className="text-soft">{i + 1}.</span> {map.samples.out[p.out - map.first.out]} →{' '}
                {map.samples.in[p.in - map.first.in]}
                {!p.sameFeet && <span className="text-soft">, different foot</span>}
              </span>
              <span>
                <GradeMark grade={p.measures.grade} /> {worstMeasure(p.measures)}
              </span>
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}
