import type { Clip, LoopCandidate } from '@warper/core';
import { findLoops } from '@warper/core';
import { useState } from 'react';
import { Button } from './controls';
import { GradeMark } from './grade';

/** Gap by motion up to which a loop is good, or worth a try. */
const QUALITY = { good: 0.15, watch: 0.3 };
const SHOWN = 5;

interface Props {
  readonly clip: Clip;
  /** The parts, where they were found before. */
  readonly known?: readonly LoopCandidate[];
  readonly onChoose: (loop: LoopCandidate) => void;
  /** Whether a part is the one in use. */
  readonly isChosen?: (loop: LoopCandidate) => boolean;
}

/** The parts of a clip that repeat best, best first. */
export function LoopFinder({ clip, known, onChoose, isChosen }: Props) {
  const [candidates, setCandidates] = useState<readonly LoopCandidate[] | null>(known ?? null);
  if (!candidates) {
    return (
      <div>
        <Button onClick={() => setCandidates(findLoops(clip, SHOWN))}>Find loops</Button>
      </div>
    );
  }
  if (candidates.length === 0) return <p className="text-soft">No part of this clip meets itself.</p>;
  return (
    <ul aria-label="Loops">
      {candidates.map((l) => (
        <li key={`${l.in}-${l.out}`}>
          <Button
            look="row"
            aria-pressed={isChosen?.(l)}
            className="px-1 aria-pressed:ring-1 aria-pressed:ring-ink"
            onClick={() => onChoose(l)}
          >
            <span>
              {l.in} to {l.out}
              <span className="text-soft">, every {l.period}</span>
            </span>
            <GradeMark
              grade={l.quality < QUALITY.good ? 'good' : l.quality < QUALITY.watch ? 'watch' : 'bad'}
            />
          </Button>
        </li>
      ))}
    </ul>
  );
}
