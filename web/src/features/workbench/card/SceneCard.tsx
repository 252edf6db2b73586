import type { Plan, Scene } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { Link } from 'react-router';
import { Button, Group } from '../../../ui/controls';
import { GradeMark, worstMeasure } from '../../../ui/grade';
import { clock } from '../../../ui/time';
import { rankedSeams } from '../rankedSeams';
import { AlternateGroup } from './AlternateGroup';
import { CameraList } from './CameraList';
import { LimitsGroup } from './LimitsGroup';
import { MarkerList } from './MarkerList';
import { RateGroup } from './RateGroup';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';

/** The scene: its length, and all its seams, worst first. */
export function SceneCard({ scene, plan }: { scene: Scene; plan: Plan }) {
  const dispatch = useAppDispatch();
  const fps = framesPerSecond(plan.rate);
  const seams = rankedSeams(plan);
  return (
    <>
      <p className="text-soft">Scene</p>
      <h2 className="mb-1 text-title font-bold">{scene.name}</h2>
      <p className="pb-2 text-soft">
        {clock(plan.end, fps)} · {plan.end} frames at {Number(fps.toFixed(3))} a second
      </p>
      <RateGroup scene={scene} plan={plan} />
      <LimitsGroup
        title="Limits of chosen joins"
        limits={scene.choice}
        onChange={(limits) => dispatch(commit({ type: 'limits', limits }))}
      />
      <MarkerList scene={scene} />
      <CameraList scene={scene} plan={plan} />
      <AlternateGroup />
      <Group title={seams.length > 0 ? 'Seams, worst first' : 'Seams'}>
        {seams.length === 0 && (
          <p className="text-soft">
            Two segments that follow each other make a seam. It is measured at once.
          </p>
        )}
        <ul>
          {seams.slice(0, MOST_LISTED).map(({ character, segment, from, measures: m }) => (
            <li key={segment.id}>
              <Button
                look="row"

                onClick={() => {
                  dispatch(sessionActions.selected({ kind: 'seam', id: segment.id }));
                  dispatch(sessionActions.went(m.frame + Math.floor(m.overlap / 2)));
                }}
              >
                <span className="truncate">
                  {plan.characters.length > 1 ? `${character.character.name}: ` : ''}
                  {from.name} → {segment.name}
                </span>
                <span className="shrink-0">
                  <GradeMark grade={m.grade} /> {worstMeasure(m)}
                </span>
              </Button>
            </li>
          ))}
        </ul>
        {seams.length > 0 && (
          <Link to="continuity" className="underline decoration-rule underline-offset-4">
            Continuity: all measures and mends
          </Link>
        )}
        {seams.length > MOST_LISTED && (
          <p className="text-soft">and {seams.length - MOST_LISTED} better ones</p>
        )}
      </Group>
    </>
  );
}

/** Seams that are listed. */
const MOST_LISTED = 40;
