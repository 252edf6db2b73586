import { InputError } from '@warper/core';
import { useEffect, useRef, useState } from 'react';
import { motion } from '../../../data/motion';
import type { SeamMatch } from '../../../workers/matchSeam';
import { Button, Group } from '../../../ui/controls';
import { GradeMark, cm } from '../../../ui/grade';
import { commit } from '../../../store/edits';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { selectPreviewScene } from '../../../store/selectors';
import { gradeOfDistance } from './distanceGrade';
import { MatchMap } from './MatchMap';

interface Props {
  /** The incoming segment. */
  readonly segment: string;
}

/** Moments of either side below which a map of them shows nothing. */
const LEAST_DRAWN = 4;
/** Pairs that are shown. */
const SHOWN = 4;

/** The pairs of frames near a seam at which its two clips are most alike; choosing one trims both sides to it. */
export function MatchList({ segment }: Props) {
  const dispatch = useAppDispatch();
  const { match, problem, share, find, cancel } = useMatch(segment);
  const pairs = match?.pairs ?? null;
  const choose = (out: number, into: number): void =>
    void dispatch(commit({ type: 'match', segment, out, in: into }));
  return (
    <Group title="Matching frames">
      {share === null ? (
        <div>
          <Button onClick={() => void find()}>{pairs ? 'Search again' : 'Find matching frames'}</Button>
        </div>
      ) : (
        <div className="flex items-center justify-between gap-2" role="status">
          <span className="text-soft">{Math.round(share * 100)} % compared</span>
          <Button onClick={cancel}>Cancel</Button>
        </div>
      )}
      {problem && <p className="text-watch">{problem}</p>}
      {pairs?.length === 0 && <p className="text-soft">No pair stands out within a second of the seam.</p>}
      {match && match.outgoingMoments > LEAST_DRAWN && match.incomingMoments > LEAST_DRAWN && (
        <MatchMap match={match} onChoose={choose} />
      )}
      {match && (match.outgoingMoments <= LEAST_DRAWN || match.incomingMoments <= LEAST_DRAWN) && (
        <p className="text-soft">One side is a loop, whose cycle stays: there is no map to choose on.</p>
      )}
      <ul>
        {pairs?.map((p, i) => (
          <li key={`${p.out}-${p.in}`}>
            <Button look="row" onClick={() => choose(p.out, p.in)}>
              <span>
                <span className="text-soft">{i + 1}.</span> {p.out} → {p.in}
                {!p.sameFeet && <span className="text-soft">, different foot planted</span>}
              </span>
              <span>
                <GradeMark grade={gradeOfDistance(p.distanceCm)} /> {cm(p.distanceCm)}
              </span>
            </Button>
          </li>
        ))}
      </ul>
    </Group>
  );
}

/** The search for matching frames of the seam before a segment; `share` is how much is compared, null while nothing is. */
function useMatch(segment: string) {
  const scene = useAppSelector(selectPreviewScene);
  const [match, setMatch] = useState<SeamMatch | null>(null);
  const [problem, setProblem] = useState('');
  const [share, setShare] = useState<number | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);
  const find = async (): Promise<void> => {
    stop.current = new AbortController();
    setShare(0);
    setProblem('');
    try {
      setMatch(await motion.match({ scene, segment, top: SHOWN }, setShare, stop.current.signal));
    } catch (error) {
      const refused = error instanceof InputError ? error : null;
      if (refused?.code !== 'cancelled') setProblem(refused?.message ?? String(error));
    }
    setShare(null);
  };
  return { match, problem, share, find, cancel: (): void => stop.current?.abort() };
}
