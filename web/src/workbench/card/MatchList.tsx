import type { MatchedPair, SegmentPlan } from '@warper/core';
import { InputError, matchClipsSteps } from '@warper/core';
import { useEffect, useRef, useState } from 'react';
import { inSlices } from '../../motion/inSlices';
import { Button, Group } from '../../parts/controls';
import { GradeMark, cm } from '../../parts/grade';
import { commit } from '../../store/edits';
import { useAppDispatch } from '../../store/store';

interface Props {
  readonly outgoing: SegmentPlan;
  readonly incoming: SegmentPlan;
  /** The incoming segment. */
  readonly segment: string;
}

/** Pairs that are shown. */
const SHOWN = 4;
/** Distances up to which two moments are alike, or worth a try, centimetres; measured on capture. */
const ALIKE = { good: 6, watch: 12 };

/** The pairs of frames near a seam at which its two clips are most alike; choosing one trims both sides to it. */
export function MatchList({ outgoing, incoming, segment }: Props) {
  const dispatch = useAppDispatch();
  const [pairs, setPairs] = useState<readonly MatchedPair[] | null>(null);
  const [problem, setProblem] = useState('');
  const [share, setShare] = useState<number | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);
  const find = async (): Promise<void> => {
    stop.current = new AbortController();
    setShare(0);
    try {
      const work = matchClipsSteps(outgoing.clip, incoming.clip, {
        ...nearSeam(outgoing, incoming),
        top: SHOWN,
      });
      setPairs(await inSlices(work, setShare, stop.current.signal));
    } catch (error) {
      setProblem(error instanceof InputError ? error.message : String(error));
    }
    setShare(null);
  };
  return (
    <Group title="Matching frames">
      {pairs === null && !problem && share === null && (
        <div>
          <Button onClick={() => void find()}>Find the best pairs</Button>
        </div>
      )}
      {share !== null && (
        <div className="flex items-center justify-between gap-2" role="status">
          <span className="text-soft">{Math.round(share * 100)} % compared</span>
          <Button onClick={() => stop.current?.abort()}>Stop</Button>
        </div>
      )}
      {problem && <p className="text-watch">{problem}</p>}
      {pairs?.length === 0 && <p className="text-soft">No pair stands out within a second of the seam.</p>}
      <ul>
        {pairs?.map((p) => (
          <li key={`${p.out}-${p.in}`}>
            <button
              type="button"
              className="flex w-full items-baseline justify-between gap-2 rounded py-0.5 text-left hover:bg-paper"
              onClick={() => dispatch(commit({ type: 'match', segment, out: p.out, in: p.in }))}
            >
              <span>
                {p.out} → {p.in}
                {!p.sameFeet && <span className="text-soft">, other feet</span>}
              </span>
              <span>
                <GradeMark grade={gradeOfDistance(p.distanceCm)} /> {cm(p.distanceCm)}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </Group>
  );
}

const gradeOfDistance = (distance: number): 'good' | 'watch' | 'bad' =>
  distance < ALIKE.good ? 'good' : distance < ALIKE.watch ? 'watch' : 'bad';

/** The samples within a second of the seam; of a loop that comes in only its first, since its cycle is to stay. */
function nearSeam(outgoing: SegmentPlan, incoming: SegmentPlan): { outgoing: Span; incoming: Span } {
  const second = (plan: SegmentPlan): number => Math.round(plan.clip.rate);
  const out = Math.ceil(outgoing.out);
  const into = Math.floor(incoming.in);
  return {
    outgoing: outgoing.loop
      ? { start: Math.ceil(outgoing.in), end: Math.ceil(outgoing.in) + outgoing.period }
      : {
          start: Math.max(0, out - second(outgoing)),
          end: Math.min(outgoing.clip.frames, out + second(outgoing)),
        },
    incoming: incoming.loop
      ? { start: into, end: into + 1 }
      : {
          start: Math.max(0, into - second(incoming)),
          end: Math.min(incoming.clip.frames, into + second(incoming)),
        },
  };
}

interface Span {
  readonly start: number;
  readonly end: number;
}
