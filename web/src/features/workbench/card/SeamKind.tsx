import type { Join } from '@warper/core';
import { Button } from '../../../ui/controls';

type KindName = Join['kind'];

/** Stitches of each kind: the x of their lower and upper ends, and their weight. */
const STITCHES: Record<KindName, readonly (readonly [number, number, number])[]> = {
  cut: [[30, 30, 2.2]],
  crossfade: [10, 17, 24, 31, 38, 45].map((x) => [x, x + 5, 1.5] as const),
  settle: [12, 19, 26, 33, 40].map((x, i) => [x, x + 5, 2.3 - i * 0.45] as const),
  step: [],
};

/** A kind of seam to choose, drawn as its stitches on the lane. */
export function SeamKind({ name, on, onClick }: { name: KindName; on: boolean; onClick: () => void }) {
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
