import { useDrag } from '@use-gesture/react';
import type { PropShape } from '@warper/core';
import { PROP_SHAPES } from '@warper/core';
import { PROPS } from '@warper/formats';
import { useLiveQuery } from 'dexie-react-hooks';
import type { ReactNode } from 'react';
import { useMemo, useState } from 'react';
import type { CastBody } from '../../../data/castBodies';
import { db } from '../../../data/db';
import { BodyPicture } from '../../../parts/BodyPicture';
import { useAppDispatch } from '../../../store/store';
import type { Thunk } from '../commands/command';
import type { FloorPoint } from '../view/floorUnder';
import { floorUnder } from '../view/floorUnder';
import { HeldName } from './HeldName';
import { addBodyAsProp, addProp } from './newProp';
import { propDrawing } from './propDrawing';

type Made = Exclude<PropShape, 'own file'>;

const SHAPES = PROP_SHAPES.filter((s): s is Made => s !== 'own file');
const PICTURE = 52;

/** The props that are made in code and those of the library, to be dragged into the view or added in its middle. */
export function PropList({ query }: { readonly query: string }) {
  const things = useLiveQuery(readThings, []) ?? [];
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const matches = (name: string): boolean => words.every((w) => name.toLowerCase().includes(w));
  const shapes = SHAPES.filter(matches);
  const own = things.filter((t) => matches(t.name));
  if (shapes.length + own.length === 0)
    return <p className="px-3.5 py-4 text-soft">No prop has all these words.</p>;
  return (
    <ul aria-label="Props" className="h-full overflow-y-auto px-3.5">
      {own.map((thing) => (
        <li key={thing.body.id} className="border-b">
          <PropItem
            name={thing.name}
            note={`${thing.body.heightMetres.toFixed(2)} m · ${thing.from}`}
            add={(at) => addBodyAsProp(thing, at)}
          >
            <BodyPicture body={thing.body} />
          </PropItem>
        </li>
      ))}
      {shapes.map((shape) => (
        <li key={shape} className="border-b">
          <PropItem name={shape} note={`${PROPS[shape].size.join(' × ')} m`} add={(at) => addProp(shape, at)}>
            <PropPicture shape={shape} />
          </PropItem>
        </li>
      ))}
    </ul>
  );
}

/** The bodies of the library that stand on no legs. */
async function readThings(): Promise<CastBody[]> {
  const bodies = await db.bodies.filter((b) => b.legs === 0).toArray();
  const files = await db.files.bulkGet([...new Set(bodies.map((b) => b.source))]);
  const fileOf = new Map(files.flatMap((f) => (f ? [[f.id, f.file] as const] : [])));
  return bodies.map((body) => ({ body, name: body.name, from: fileOf.get(body.source) ?? 'a file' }));
}

interface ItemProps {
  readonly name: string;
  readonly note: string;
  readonly add: (at: FloorPoint | null) => Thunk;
  readonly children: ReactNode;
}

function PropItem({ name, note, add, children }: ItemProps) {
  const dispatch = useAppDispatch();
  const [held, setHeld] = useState<readonly [number, number] | null>(null);
  const bind = useDrag(
    ({ last, tap, xy, canceled }) => {
      if (tap) return;
      const isOver = last || canceled;
      setHeld(isOver ? null : xy);
      if (!last || canceled) return;
      const at = floorUnder(xy);
      if (at) void dispatch(add(at));
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const addInMiddle = (): void => void dispatch(add(null));
  return (
    <>
      <div
        role="button"
        tabIndex={0}
        data-prop={name}
        title="Drag it into the view, or press Enter to put it in the middle"
        className="flex cursor-grab touch-none items-center gap-3 py-1.5 select-none"
        onDoubleClick={addInMiddle}
        onKeyDown={(e) => {
          if (e.key !== 'Enter') return;
          e.preventDefault();
          addInMiddle();
        }}
        {...bind()}
      >
        {children}
        <span className="min-w-0">
          <span className="block truncate font-semibold first-letter:uppercase">{name}</span>
          <span className="block truncate text-note text-soft">{note}</span>
        </span>
      </div>
      {held && <HeldName name={name} at={held} />}
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
