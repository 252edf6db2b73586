import type { Segment } from '@warper/core';
import type { AppDispatch, RootState } from '../../../../store/store';
import type { Row } from '../rows';
import type { TimelineDrag } from '../useTimelineDrag';

/** What a press on the lanes has taken hold of, and does as it is dragged. */
export interface Hand {
  /** Called from the first movement to the end of the drag. */
  readonly drag: (drag: TimelineDrag) => void;
  /** Called instead where it was pressed without being moved. */
  readonly tap: (event: PointerEvent) => void;
}

/** What hands work on. */
export interface Table {
  readonly dispatch: AppDispatch;
  readonly state: () => RootState;
  readonly rows: () => readonly Row[];
  /** Frame, and pixels from the top of the first row, at a place of the window. */
  readonly place: (xy: readonly [number, number]) => { readonly frame: number; readonly y: number };
  /** Segments of a row that are not performed. */
  readonly silent: (row: Row) => readonly Segment[];
}
