import { useDrag } from '@use-gesture/react';
import type { PropShape } from '@warper/core';
import { PROP_SHAPES } from '@warper/core';
import { PROPS } from '@warper/formats';
import { useMemo, useState } from 'react';
import { useAppDispatch } from '../../../store/store';
import { floorUnder } from '../view/floorUnder';
import { addProp } from './newProp';
import { propDrawing } from './propDrawing';

type Made = Exclude<PropShape, 'own file'>;

const SHAPES = PROP_SHAPES.filter((s): s is Made => s !== 'own file');
const PICTURE = 52;

/** The props that are made in code, to be dragged into the view or added in its middle. */
export function PropList({ query }: { readonly query: string }) {
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const found = SHAPES.filter((shape) => words.every((w) => shape.includes(w)));
  if (found.length === 0) return <p className="px-3.5 py-4 text-soft">No prop has all these words.</p>;
  return (
    <ul aria-label="Props" className="h-full overflow-y-auto px-3.5">
      {found.map((shape) => (
        <li key={shape} className="border-b">
          <PropItem shape={shape} />
        </li>
      ))}
    </ul>
  );
}

function PropItem({ shape }: { readonly shape: Made }) {
  const dispatch = useAppDispatch();
  const [held, setHeld] = useState<readonly [number, number] | null>(null);
  const bind = useDrag(
    ({ last, tap, xy, canceled }) => {
      if (tap) return;
      const isOver = last || canceled;
      setHeld(isOver ? null : xy);
      if (!last || canceled) return;
      const at = floorUnder(xy);
      if (at) void dispatch(addProp(shape, at));
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const add = (): void => void dispatch(addProp(shape, null));
  const [w, h, d] = PROPS[shape].size;
  return (
    <>
      <div
        role="button"
        tabIndex={0}
        data-prop={shape}
        title="Drag it into the view, or press Enter to put it in the middle"
        className="flex cursor-grab touch-none items-center gap-3 py-1.5 select-none"
        onDoubleClick={add}
        onKeyDown={(e) => {
          if (e.key !== 'Enter') return;
          e.preventDefault();
          add();
        }}
        {...bind()}
      >
        <PropPicture shape={shape} />
        <span className="min-w-0">
          <span className="block font-semibold first-letter:uppercase">{shape}</span>
          <span className="block text-note text-soft">
            {w} × {h} × {d} m
          </span>
        </span>
      </div>
      {held && (
        <div
          className="pointer-events-none fixed z-50 rounded border bg-raised px-2 py-0.5 font-semibold shadow"
          style={{ left: held[0] + 12, top: held[1] + 12 }}
        >
          {shape}
        </div>
      )}
    </>
  );
}

/** How the tones of a prop are drawn on paper. */
const FILLS = { plain: 'var(--raised)', dark: 'var(--rule)', light: 'var(--paper)' } as const;

function PropPicture({ shape }: { readonly shape: Made }) {
  const parts = useMemo(() => propDrawing(shape, PICTURE), [shape]);
  return (
    <svg width={PICTURE} height={PICTURE} className="shrink-0" aria-hidden>
      {parts.map(({ tone, path }, i) => (
        <path
          key={i}
          d={path}
          fill={FILLS[tone]}
          stroke="var(--ink)"
          strokeWidth={1}
          strokeLinejoin="round"
        />
      ))}
    </svg>
  );
}
