import type { Clip, LoopCandidate, SegmentValues } from '@warper/core';
import { findLoops } from '@warper/core';
import { useState } from 'react';
import { Button } from '../../parts/controls';
import { GradeMark } from '../../parts/grade';

/** Gap by motion up to which a loop is good, or worth a try. */
const QUALITY = { good: 0.15, watch: 0.3 };

/** The parts of a clip that repeat best; choosing one trims the segment to it. */
export function LoopFinder({ clip, change }: { clip: Clip; change: (values: SegmentValues) => void }) {
  const [found, setFound] = useState<readonly LoopCandidate[] | null>(null);
  if (!found) {
    return (
      <div>
        <Button onClick={() => setFound(findLoops(clip, 4))}>Find loops</Button>
      </div>
    );
  }
  if (found.length === 0) return <p className="text-soft">No part of this clip meets itself.</p>;
  return (
    <ul aria-label="Loops">
      {found.map((l) => (
        <li key={`${l.in}-${l.out}`}>
          <button
            type="button"
            className="flex w-full items-baseline justify-between gap-2 rounded py-0.5 text-left hover:bg-paper"
            onClick={() => change({ in: l.in, out: l.out, loop: true, length: null })}
          >
            <span>
              {l.in} to {l.out}
              <span className="text-soft">, every {l.period}</span>
            </span>
            <GradeMark
              grade={l.quality < QUALITY.good ? 'good' : l.quality < QUALITY.watch ? 'watch' : 'bad'}
            />
          </button>
        </li>
      ))}
    </ul>
  );
}
