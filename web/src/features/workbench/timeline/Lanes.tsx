import { defined } from '@warper/core';
import type { Plan, Scene } from '@warper/core';
import type { RefObject } from 'react';
import { memo, useDeferredValue, useMemo, useState } from 'react';
import { isEqualSelection, selectedSegments } from '../../../store/selection';
import { useAppSelector } from '../../../store/store';
import { Lane } from './Lane';
import type { Row } from './rows';
import { isInSight, silentSegments } from './rows';
import type { Sight } from './useViewport';

/** Pixels in which the frames that can be reached go on. */
const STEP = 320;
/** How many parts a step has; a row begins at one of them. */
const PHASES = 4;

interface Props {
  readonly scene: Scene;
  readonly rows: readonly Row[];
  readonly sight: Sight;
  readonly rate: Plan['rate'];
  /** Whether a pointer is being pressed on the lanes. */
  readonly pressing: RefObject<boolean>;
}

/** The lanes in sight, each with what of it can be reached. */
export const Lanes = memo(function Lanes({ scene, rows, sight, rate, pressing }: Props) {
  const selection = useAppSelector((s) => s.session.selection);
  const document = useAppSelector((s) => s.scene.document);
  const { ppf, left, right } = sight;
  const chosen = new Set(selectedSegments(selection, document));
  const selected = useKept(rows.map((row) => row.lane.segments.filter((s) => chosen.has(s))));
  const seam = selection.kind === 'seam' ? selection.id : '';
  // Steps of two: within one a zoom leaves what can be reached as it is.
  const scale = 2 ** Math.floor(Math.log2(ppf));
  const step = Math.ceil(STEP / scale);
  // What can be reached may come a moment after what is drawn.
  const first = Math.floor(left / ppf / (step / PHASES));
  const last = Math.ceil(right / ppf / (step / PHASES));
  const steps = useDeferredValue(useMemo(() => ({ first, last, step, scale }), [first, last, step, scale]));
  const silent = useMemo(() => rows.map((row) => silentSegments(scene, row)), [scene, rows]);
  return rows.map((row, i) => (
    <Lane
      key={row.lane.id}
      row={row}
      rate={rate}
      ppf={ppf}
      left={left}
      right={isInSight(row, sight) ? right : left}
      {...reachOf(row, steps)}
      selected={defined(selected[i])}
      seam={row.lane.segments.includes(seam) ? seam : ''}
      silent={defined(silent[i])}
      pressing={pressing}
    />
  ));
});

/**
 * The frames of a row that can be reached: what is in sight, in whole steps. The steps of one row begin elsewhere than those of
 * the next, so that a pan brings in a few rows with each picture, not all of them with one.
 */
function reachOf(row: Row, steps: { first: number; last: number; step: number; scale: number }) {
  const { first, last, step, scale } = steps;
  const phase = Math.round(row.top / row.height) % PHASES;
  const from = ((Math.floor((first + phase) / PHASES) * PHASES - phase) * step) / PHASES;
  const to = ((Math.ceil((last + phase) / PHASES) * PHASES - phase) * step) / PHASES;
  return { from, to, scale };
}

/** Lists of ids that stay the very ones while the same ids are in them, so that rows of which nothing changes are not drawn. */
function useKept(lists: readonly (readonly string[])[]): readonly (readonly string[])[] {
  const [kept, setKept] = useState(lists);
  const next = lists.map((list, i) => (kept[i] && isEqualSelection(kept[i], list) ? kept[i] : list));
  const changed = next.length !== kept.length || next.some((list, i) => list !== kept[i]);
  if (changed) setKept(next);
  return changed ? next : kept;
}
