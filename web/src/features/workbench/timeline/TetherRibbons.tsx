import type { Edit, Plan, Scene, Tether } from '@warper/core';
import { memo, useRef } from 'react';
import { commit, preview } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { tetherSpan, tetherWords } from '../card/tetherWords';
import { TETHER_ROW } from './geometry';
import { LaneHandle } from './LaneHandle';
import type { Row } from './rows';
import { tetherTracks } from './tetherTracks';
import type { TimelineDrag } from './useTimelineDrag';
import { useTimelineDrag } from './useTimelineDrag';

interface Props {
  readonly scene: Scene;
  readonly plan: Plan;
  readonly rows: readonly Row[];
  /** Pixels of a frame. */
  readonly ppf: number;
}

/** The tethers of the scene as thin ribbons under the lanes of what they hold. */
export const TetherRibbons = memo(function TetherRibbons({ scene, plan, rows, ppf }: Props) {
  return rows
    .filter((row) => row.below > 0)
    .map((row) => (
      <div key={row.lane.id} role="group" aria-label={`Tethers of ${row.plan.character.name}`}>
        {tetherTracks(scene.tethers, row.plan.character.id).map(({ tether, track }) => (
          <Ribbon
            key={tether.id}
            tether={tether}
            label={`${tetherWords(tether, scene)}, ${tether.name}, ${tetherSpan(tether)}`}
            hue={scene.characters[tether.parent]?.hue ?? 0}
            last={Math.max(plan.end, tether.start + 1)}
            top={row.top + row.height - row.below + track * TETHER_ROW}
            ppf={ppf}
          />
        ))}
      </div>
    ));
});

interface RibbonProps {
  readonly tether: Tether;
  readonly label: string;
  /** Hue of who holds. */
  readonly hue: number;
  /** Where one without an end is drawn to. */
  readonly last: number;
  readonly top: number;
  readonly ppf: number;
}

function Ribbon({ tether, label, hue, last, top, ppf }: RibbonProps) {
  const { id, start, end, muted, kind } = tether;
  const { fadeIn, fadeOut } = kind === 'lead' ? NO_FADES : tether;
  const selected = useAppSelector(
    ({ session: { selection } }) => selection.kind === 'tether' && selection.id === id,
  );
  const hands = useRibbonHands(tether);
  const width = ((end ?? last) - start) * ppf;
  const colour = `var(--hue-${hue})`;
  const share = (frames: number): string => `${Math.min(100, (100 * frames * ppf) / width)}%`;
  // The fades are slopes of the ribbon's ends.
  const outline = `polygon(0 50%, ${share(fadeIn)} 0, calc(100% - ${share(end === null ? 0 : fadeOut)}) 0, 100% ${end === null || fadeOut === 0 ? 0 : 50}%, 100% ${end === null || fadeOut === 0 ? 100 : 50}%, calc(100% - ${share(end === null ? 0 : fadeOut)}) 100%, ${share(fadeIn)} 100%)`;
  return (
    <>
      <Button
        look="bare"
        data-tether={id}
        aria-label={muted ? `${label}, disabled` : label}
        aria-pressed={selected}
        className={`absolute z-10 cursor-grab touch-none text-left text-tick ${muted ? 'opacity-45' : ''}`}
        style={{ left: start * ppf, width, top, height: TETHER_ROW - 2 }}
        {...hands}
      >
        <span
          className="absolute inset-0 opacity-35"
          style={{
            background:
              kind === 'hold'
                ? colour
                : kind === 'lead'
                  ? `radial-gradient(circle, ${colour} 2px, transparent 2.5px) 0 50% / 8px 8px`
                  : `repeating-linear-gradient(90deg, ${colour} 0 7px, transparent 7px 11px)`,
            clipPath: outline,
          }}
        />
        <span
          className={`absolute inset-x-0 bottom-0 border-b-2 ${selected ? 'border-ink' : ''} ${end === null ? 'border-dashed' : ''}`}
          style={selected ? undefined : { borderColor: colour }}
        />
        <span className="sticky left-1 inline-block max-w-full truncate px-1 leading-[14px] text-ink">
          {tether.name}
        </span>
      </Button>
      {selected && <Ends tether={tether} top={top} ppf={ppf} />}
    </>
  );
}

const NO_FADES = { fadeIn: 0, fadeOut: 0 };

/** The ends of the ribbon in hand, to be dragged. */
function Ends({ tether, top, ppf }: { readonly tether: Tether; readonly top: number; readonly ppf: number }) {
  const dispatch = useAppDispatch();
  const kept = useAppSelector((s) => s.scene.document?.tethers[tether.id]);
  if (!kept) return null;
  return (['start', 'end'] as const).map((edge) => {
    const at = tether[edge];
    const from = kept[edge];
    if (at === null || from === null) return null;
    const edit = (frames: number): Edit => {
      const to =
        edge === 'start'
          ? Math.min(from + frames, (kept.end ?? Infinity) - 1)
          : Math.max(from + frames, kept.start + 1);
      return { type: 'change tether', tether: tether.id, values: { [edge]: to } };
    };
    return (
      <LaneHandle
        key={edge}
        look="edge"
        label={`${edge === 'start' ? 'Start' : 'End'} of the tether ${tether.name}`}
        value={at}
        text={`frame ${at}`}
        left={at * ppf}
        top={top + TETHER_ROW / 2 - 1}
        ppf={ppf}
        onPreview={(shift) => void dispatch(preview(shift && edit(shift.frames)))}
        onChange={({ frames }) => void dispatch(commit(edit(frames)))}
      />
    );
  });
}

const moved = ({ id, start, end }: Tether, frames: number): Edit => ({
  type: 'change tether',
  tether: id,
  values: { start: start + frames, end: end === null ? null : end + frames },
});

/** A ribbon is selected by a press, and moved by drags and arrow keys. */
function useRibbonHands(tether: Tether) {
  const dispatch = useAppDispatch();
  const from = useRef(tether);
  const select = (): void => void dispatch(sessionActions.selected({ kind: 'tether', id: tether.id }));
  const bind = useTimelineDrag((d: TimelineDrag) => {
    if (d.first) {
      from.current = tether;
      select();
    }
    if (d.canceled) return void dispatch(preview(null));
    const change = moved(from.current, Math.round(d.frames));
    dispatch(d.last ? commit(change) : preview(change));
  }, select);
  const onKeyDown = (e: React.KeyboardEvent): void => {
    if (e.key === 'Enter' || e.key === ' ') select();
    else if (e.key === 'Delete' || e.key === 'Backspace') {
      dispatch(commit({ type: 'remove tether', tether: tether.id }));
      dispatch(sessionActions.selected({ kind: 'character', id: tether.child }));
    } else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
      const frames = (e.key === 'ArrowLeft' ? -1 : 1) * (e.shiftKey ? 10 : 1);
      if (dispatch(commit(moved(tether, frames))))
        dispatch(sessionActions.announced(`${tether.name} moved by ${frames} frames`));
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return { ...bind(), onKeyDown };
}
