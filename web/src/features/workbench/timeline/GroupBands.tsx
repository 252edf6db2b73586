import type { Scene, SegmentGroup } from '@warper/core';
import { segmentsOfGroup } from '@warper/core';
import { useMemo, useRef } from 'react';
import { commit, preview } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import type { Band } from './bands';
import { bandName, findBands } from './bands';
import type { Row } from './rows';
import type { TimelineDrag } from './useTimelineDrag';
import { useTimelineDrag } from './useTimelineDrag';
import { Button } from '../../../ui/controls';

/** Height of a bracket under its segments, and how far inner ones lie above outer ones, pixels. */
const BRACKET = { height: 12, step: 3, most: 6 };
/** The groups of a scene over its rows: each as a bracket under its segments on every lane, or folded into a block. */
export function GroupBands({ scene, rows, ppf }: { scene: Scene; rows: readonly Row[]; ppf: number }) {
  const bands = useMemo(() => findBands(scene, rows), [scene, rows]);
  return (
    <>
      {bands.map((b) => (
        <GroupBand
          key={`${b.group.id}-${b.top}`}
          band={b}
          members={segmentsOfGroup(scene, b.group.id)}
          ppf={ppf}
        />
      ))}
    </>
  );
}

interface GroupBandProps {
  readonly band: Band;
  readonly members: readonly string[];
  /** Pixels of a frame. */
  readonly ppf: number;
}

function GroupBand({ band, members, ppf }: GroupBandProps) {
  const { group, from, to, top, height } = band;
  const selected = useAppSelector(
    (s) => s.session.selection.kind === 'group' && s.session.selection.id === group.id,
  );
  const hands = useGroupHands(group, members);
  const label = `${group.name}, group of ${members.length}${group.muted ? ', muted' : ''}`;
  // All names stand on one line, at the foot of the lane.
  const above = Math.min(band.depth * BRACKET.step, BRACKET.most);
  const [left, width] = [from * ppf, (to - from) * ppf];
  const look = group.folded
    ? `truncate rounded-[4px] border border-soft bg-raised px-2 font-semibold ${selected ? 'ring-2 ring-ink' : ''}`
    : `rounded-b-[4px] border-t-0! ${selected ? 'border-2 border-ink font-semibold' : 'border border-ink/60 text-soft'}`;
  const place = group.folded
    ? { top: top + 4, height: height - 18 }
    : { top: top + height - BRACKET.height - 1 - above, height: BRACKET.height };
  return (
    <Button
      look="bare"
      aria-label={label}
      aria-pressed={selected}
      className={`absolute z-10 cursor-grab touch-none text-left text-tick ${look}`}
      style={{ left, width, ...place }}
      {...hands}
    >
      {group.folded ? <FoldedName band={band} /> : <BracketName band={band} above={above} width={width} />}
    </Button>
  );
}

const FoldedName = ({ band: { group, count } }: { band: Band }) => (
  <>
    {group.name}{' '}
    <span className="font-normal text-soft">
      · {count} segments{group.muted ? ', muted' : ''}
    </span>
  </>
);

const BracketName = ({ band, above, width }: { band: Band; above: number; width: number }) => (
  <span
    className="absolute left-1.5 truncate bg-paper px-1 leading-[12px]"
    style={{ marginLeft: band.indent, top: above - 1, maxWidth: Math.max(0, width - band.indent - 12) }}
  >
    {bandName(band.group)}
  </span>
);

/** A group is selected by a press, and moved as one by drags and arrow keys. */
function useGroupHands(group: SegmentGroup, members: readonly string[]) {
  const dispatch = useAppDispatch();
  const moving = useRef(members);
  const select = (): void => void dispatch(sessionActions.selected({ kind: 'group', id: group.id }));
  const bind = useTimelineDrag((d: TimelineDrag) => {
    if (d.first) {
      moving.current = members;
      select();
    }
    if (d.canceled) return void dispatch(preview(null));
    const change = { type: 'move several', segments: moving.current, frames: Math.round(d.frames) } as const;
    dispatch(d.last ? commit(change) : preview(change));
  }, select);
  const onKeyDown = (e: React.KeyboardEvent): void => {
    if (e.key === 'Enter' || e.key === ' ') select();
    else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
      const frames = (e.key === 'ArrowLeft' ? -1 : 1) * (e.shiftKey ? 10 : 1);
      dispatch(commit({ type: 'move several', segments: members, frames }));
      dispatch(sessionActions.announced(`${group.name} moved by ${frames} frames`));
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return { ...bind(), onKeyDown };
}
