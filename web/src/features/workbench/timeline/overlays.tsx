import { defined } from '@warper/core';
import type { Scene } from '@warper/core';
import { useRef } from 'react';
import { useAppSelector } from '../../../store/store';
import { useShownFrame } from '../useShownFrame';

/** What lies outside the play range, shaded. */
export function RangeShade({ scene, ppf }: { scene: Scene; ppf: number }) {
  if (!scene.range) return null;
  const { from, to } = scene.range;
  const shade = 'pointer-events-none absolute inset-y-0 bg-ink/[0.04]';
  return (
    <>
      <div className={shade} style={{ left: 0, width: from * ppf }} />
      <div className={shade} style={{ left: to * ppf, right: 0 }} />
    </>
  );
}

/** The box that is drawn to select, and where a drag asks for what cannot be. */
export function HandMarks({ ppf }: { ppf: number }) {
  const { box, refused } = useAppSelector((s) => s.session.handMarks);
  const areas = [
    { area: box, mark: 'box', look: 'border border-ink bg-ink/10' },
    { area: refused, mark: 'refused', look: 'rounded-[4px] border border-dashed border-bad' },
  ];
  return areas.map(({ area, mark, look }) => {
    if (!area) return null;
    const { from, to, top, bottom } = area;
    const style = { left: from * ppf, width: (to - from) * ppf, top, height: bottom - top };
    return (
      <div
        key={mark}
        data-hand-mark={mark}
        className={`pointer-events-none absolute z-20 ${look}`}
        style={style}
      />
    );
  });
}

/** The frame that a drag in hand has snapped to. */
export function Guide({ ppf }: { ppf: number }) {
  const { guide } = useAppSelector((s) => s.session.handMarks);
  if (guide === null) return null;
  return (
    <div
      className="pointer-events-none absolute inset-y-0 z-10 border-l border-dashed border-ink"
      style={{ left: guide * ppf }}
    />
  );
}

export function Playhead({ ppf }: { ppf: number }) {
  const line = useRef<SVGSVGElement>(null);
  useShownFrame((frame) => {
    defined(line.current).style.transform = `translateX(${frame * ppf}px)`;
  });
  return (
    <svg
      ref={line}
      className="pointer-events-none absolute inset-y-0 left-0 z-[16] h-full overflow-visible"
      width={1}
      aria-hidden
    >
      <line y1={14} y2="100%" stroke="var(--signal)" strokeWidth={1.6} />
      <path d="M-6,12h12v8l-6,7l-6,-7z" fill="var(--signal)" />
    </svg>
  );
}
