import { useMemo } from 'react';
import { useParams } from 'react-router';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { rankedSeams } from '../rankedSeams';
import { worstMeasure } from '../../../ui/grade';
import { PaletteItem } from './PaletteItem';

/** Seams that are listed at most. */
const MOST_SEAMS = 8;

interface Props {
  readonly done: (act: () => unknown) => () => void;
  readonly go: (path: string) => void;
}

/** The pages, the characters of the scene, and the seams that need a look. */
export function Places({ done, go }: Props) {
  const { id = '' } = useParams();
  const dispatch = useAppDispatch();
  const { plan } = useAppSelector(selectPreviewPlan);
  const open = useMemo(
    () =>
      rankedSeams(plan)
        .filter((s) => s.measures.grade !== 'good')
        .slice(0, MOST_SEAMS),
    [plan],
  );
  return (
    <>
      <PaletteItem
        name="Bake"
        words="export render output file glb bvh deliver"
        onSelect={done(() => go(`/scene/${id}/bake`))}
      />
      <PaletteItem
        name="Continuity"
        words="measures list report seams slide float mend needs a look worst"
        onSelect={done(() => go(`/scene/${id}/continuity`))}
      />
      <PaletteItem name="Library" words="clips bodies import browse" onSelect={done(() => go('/library'))} />
      <PaletteItem
        name="How joins are measured"
        words="help pop glide turn slide hitch float surge explain"
        onSelect={done(() => go('/measures'))}
      />
      <PaletteItem name="Scenes" words="home documents open all" onSelect={done(() => go('/'))} />
      {plan.characters.map(({ character }) => (
        <PaletteItem
          key={character.id}
          id={character.id}
          name={character.name}
          words="character select body"
          beside="character"
          onSelect={done(() => dispatch(sessionActions.selected({ kind: 'character', id: character.id })))}
        />
      ))}
      {open.map((seam) => (
        <PaletteItem
          key={seam.segment.id}
          id={seam.segment.id}
          name={`${seam.from.name} → ${seam.segment.name}`}
          words="seam needs a look join bad watch"
          beside={worstMeasure(seam.measures)}
          onSelect={done(() => dispatch(sessionActions.selected({ kind: 'seam', id: seam.segment.id })))}
        />
      ))}
    </>
  );
}
