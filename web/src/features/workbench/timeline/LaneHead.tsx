import { useDrag } from '@use-gesture/react';
import type { Character, LayerLane } from '@warper/core';
import { keyListsOf } from '@warper/core';
import { ChevronDown, ChevronRight } from 'lucide-react';
import type { KeyboardEvent } from 'react';
import { memo, useState } from 'react';
import { commit } from '../../../store/edits';
import type { Selection } from '../../../store/sessionState';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { KEY_ROW, LAYER_HEIGHT } from './geometry';
import { listWords } from './keyRows';
import { LANE_STATES, LaneOptions } from './LaneOptions';
import type { Row } from './rows';
import { placeAfter } from './rows';
import { Button } from '../../../ui/controls';

interface Props {
  readonly row: Row;
  /** All rows as they are now; asked for when the head is dropped. */
  readonly rowsNow: () => readonly Row[];
}

/** The head of a lane: whose it is, how it is treated; dragged up and down it changes places with others. */
export const LaneHead = memo(function LaneHead({ row, rowsNow }: Props) {
  const dispatch = useAppDispatch();
  const { lane, plan, folded } = row;
  const { id, name, hue } = plan.character;
  const isBody = lane.kind === 'body';
  const target = isBody ? ({ kind: 'character', id } as const) : ({ kind: 'layer', id: lane.id } as const);
  const selected = useAppSelector(({ session: { selection } }) => isEqualSelected(selection, target));
  const { lifted, ...hands } = useReorder(row, rowsNow);
  return (
    <div
      className={`absolute inset-x-0 flex border-b ${selected ? 'bg-raised' : 'bg-paper'} ${lifted ? 'z-20 shadow' : ''}`}
      style={{ top: row.top, height: row.height, transform: lifted ? `translateY(${lifted}px)` : undefined }}
    >
      <span className="absolute inset-y-1.5 left-0 w-1" style={{ background: `var(--hue-${hue})` }} />
      <Button
        look="bare"
        className="min-w-0 flex-1 cursor-grab touch-none py-1 pl-4 text-left active:cursor-grabbing"
        style={row.showsKeys ? { height: LAYER_HEIGHT } : undefined}
        aria-pressed={selected}
        title="Drag up or down to change the order, or use Alt and the arrow keys"
        onClick={() => dispatch(sessionActions.selected(target))}
        {...hands}
      >
        <span className={`block truncate ${isBody ? 'font-semibold' : ''}`}>{isBody ? name : lane.name}</span>
        {!folded && <Second row={row} />}
      </Button>
      {lane.kind === 'layer' && row.showsKeys && <KeyNames layer={lane} />}
      <div className={`flex shrink-0 items-start pt-1 ${folded || !isBody ? '' : 'flex-col'}`}>
        {isBody && plan.layers.length > 0 && <FoldButton character={plan.character} />}
        {lane.kind === 'layer' && keyListsOf(lane).length > 0 && <KeysButton layer={lane} />}
        <LaneOptions lane={lane} of={isBody ? `the lane of ${name}` : `the layer ${lane.name}`} />
      </div>
    </div>
  );
});

const isEqualSelected = (a: Selection, b: { readonly kind: string; readonly id: string }): boolean =>
  a.kind === b.kind && 'id' in a && a.id === b.id;

function FoldButton({ character: { id, name, folded } }: { readonly character: Character }) {
  const dispatch = useAppDispatch();
  const toggle = (): void =>
    void dispatch(commit({ type: 'change character', character: id, values: { folded: !folded } }));
  return (
    <Button
      look="soft"
      className="p-1"
      aria-label={`${folded ? 'Unfold' : 'Fold'} the lanes of ${name}`}
      aria-expanded={!folded}
      onClick={toggle}
    >
      {folded ? <ChevronRight size={14} aria-hidden /> : <ChevronDown size={14} aria-hidden />}
    </Button>
  );
}

/** Shows the keys of a layer list by list. */
function KeysButton({ layer: { id, name } }: { readonly layer: LayerLane }) {
  const dispatch = useAppDispatch();
  const isOpen = useAppSelector((s) => s.session.unfolded.includes(id));
  return (
    <Button
      look="soft"
      className="p-1"
      aria-label={`Keys of ${name}, one row for each joint`}
      aria-expanded={isOpen}
      title={isOpen ? 'Show the keys in one row' : 'Show the keys, a row for each joint'}
      onClick={() => dispatch(sessionActions.unfolded(id))}
    >
      {isOpen ? <ChevronDown size={14} aria-hidden /> : <ChevronRight size={14} aria-hidden />}
    </Button>
  );
}

/** What each list of keys below a layer is of. */
const KeyNames = ({ layer }: { readonly layer: LayerLane }) => (
  <ul
    aria-hidden
    className="pointer-events-none absolute inset-x-0 text-tick text-soft"
    style={{ top: LAYER_HEIGHT }}
  >
    {keyListsOf(layer).map((list) => (
      <li
        key={list.id}
        className="truncate border-t border-rule/60 pr-2 pl-4 text-right"
        style={{ height: KEY_ROW, lineHeight: `${KEY_ROW - 1}px` }}
      >
        {listWords(list)}
      </li>
    ))}
  </ul>
);

/** Changes a lane's place by drags and by Alt and the arrow keys; `lifted` is how far it is dragged now, pixels. */
function useReorder(row: Row, rowsNow: () => readonly Row[]) {
  const dispatch = useAppDispatch();
  const [lifted, setLifted] = useState(0);
  const { lane, plan } = row;
  const move = (down: number): void => {
    if (lane.kind === 'body') {
      const { id, name } = plan.character;
      const { to, of } = placeAfter(row, rowsNow(), down);
      if (dispatch(commit({ type: 'order character', character: id, to })))
        dispatch(sessionActions.announced(`${name} is now ${to + 1} of ${of}`));
    } else dispatch(commit({ type: 'raise layer', layer: lane.id, by: down < 0 ? 1 : -1 }));
  };
  const bind = useDrag(
    ({ movement: [, y], last, tap, canceled }) => {
      if (tap) return;
      setLifted(last || canceled ? 0 : y);
      if (last && !canceled && Math.abs(y) > 12) move(y);
    },
    { filterTaps: true, axis: 'y', pointer: { keys: false } },
  );
  const onKeyDown = (e: KeyboardEvent): void => {
    if (!e.altKey || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
    e.preventDefault();
    e.stopPropagation();
    move(e.key === 'ArrowUp' ? -row.height * 1.2 : row.height * 1.2);
  };
  return { ...bind(), onKeyDown, lifted };
}

/** What is said below the name: how the lane is treated, else what is on it. */
function Second({ row }: { readonly row: Row }) {
  const { lane, plan } = row;
  const marks = LANE_STATES.filter(([key]) => lane[key]);
  const isBody = lane.kind === 'body';
  const { name } = plan.character;
  return (
    <span className="flex items-center gap-1 truncate text-note text-soft">
      {marks.length > 0
        ? marks.map(([key, word, , Sign]) => (
            <span key={key} className="flex items-center gap-0.5">
              <Sign size={11} aria-hidden /> {word.toLowerCase()}
            </span>
          ))
        : isBody
          ? describe(row)
          : `${name} · ${lane.kind === 'layer' && lane.pair !== null ? 'linked layer' : 'layer'}`}
    </span>
  );
}

function describe({ segments, plan }: Row): string {
  const count = segments.length;
  if (plan.character.prop && count === 0) return 'prop';
  return count === 0
    ? 'no segments yet'
    : `${count} segment${count === 1 ? '' : 's'}, ${plan.end - plan.start} f`;
}
