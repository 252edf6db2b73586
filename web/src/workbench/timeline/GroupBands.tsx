import type { Scene, SegmentGroup } from '@warper/core';
import { segmentsOfGroup } from '@warper/core';
import { useMemo, useRef } from 'react';
import { commit, preview } from '../../store/edits';
import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../store/store';
import type { Row } from './rows';
import type { TimelineDrag } from './useTimelineDrag';
import { useTimelineDrag } from './useTimelineDrag';

interface Band {
  readonly group: SegmentGroup;
  readonly from: number;
  readonly to: number;
  readonly top: number;
  readonly height: number;
  readonly depth: number;
  readonly count: number;
}

/** The groups of a scene over its rows: each as a bracket round its segments on every lane, or folded into a block. */
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

function findBands(scene: Scene, rows: readonly Row[]): Band[] {
  const bands: Band[] = [];
  const visit = (group: SegmentGroup, depth: number): void => {
    const members = new Set(segmentsOfGroup(scene, group.id));
    for (const row of rows) {
      if (row.folded) continue;
      // Muted segments are on no plan, but keep their place.
      const own = row.lane.segments
        .filter((s) => members.has(s))
        .map((s) => {
          const segment = scene.segments[s]!;
          const planned = row.segments.find((p) => p.id === s);
          return { start: segment.start, end: planned?.end ?? segment.start + 1 };
        });
      if (own.length === 0) continue;
      bands.push({
        group,
        depth,
        from: Math.min(...own.map((s) => s.start)),
        to: Math.max(...own.map((s) => s.end)),
        top: row.top,
        height: row.height,
        count: own.length,
      });
    }
    if (group.folded) return;
    for (const m of group.members) if (scene.groups[m]) visit(scene.groups[m]!, depth + 1);
  };
  const inner = new Set(Object.values(scene.groups).flatMap((g) => g.members));
  for (const group of Object.values(scene.groups)) if (!inner.has(group.id)) visit(group, 0);
  return bands;
}

interface GroupBandProps {
  readonly band: Band;
  readonly members: readonly string[];
  /** Pixels of a frame. */
  readonly ppf: number;
}

function GroupBand({ band, members, ppf }: GroupBandProps) {
  const dispatch = useAppDispatch();
  const { group, from, to, top, height, depth, count } = band;
  const selected = useAppSelector(
    (s) => s.session.selection.kind === 'group' && s.session.selection.id === group.id,
  );
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
  const label = `${group.name}, group of ${members.length}${group.muted ? ', muted' : ''}`;
  const keys = (e: React.KeyboardEvent): void => {
    if (e.key === 'Enter' || e.key === ' ') select();
    else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
      const frames = (e.key === 'ArrowLeft' ? -1 : 1) * (e.shiftKey ? 10 : 1);
      dispatch(commit({ type: 'move several', segments: members, frames }));
      dispatch(sessionActions.announced(`${group.name} moved by ${frames} frames`));
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const look = `absolute z-10 touch-none cursor-grab truncate text-left text-[11.5px] ${selected ? 'ring-2 ring-ink' : ''}`;
  return group.folded ? (
    <button
      type="button"
      aria-label={label}
      aria-pressed={selected}
      className={`${look} rounded-[4px] border border-soft bg-raised px-2 font-semibold`}
      style={{ left: from * ppf, width: (to - from) * ppf, top: top + 4, height: height - 18 }}
      onKeyDown={keys}
      {...bind()}
    >
      {group.name}{' '}
      <span className="font-normal text-soft">
        · {count} segments{group.muted ? ', muted' : ''}
      </span>
    </button>
  ) : (
    <button
      type="button"
      aria-label={label}
      aria-pressed={selected}
      className={`${look} rounded-t-[4px] border border-b-0 border-ink/60 bg-paper px-1.5 leading-[11px] text-soft`}
      style={{
        left: from * ppf,
        width: (to - from) * ppf,
        top: top + Math.min(2 + depth * 6, 8),
        height: 12,
      }}
      onKeyDown={keys}
      {...bind()}
    >
      {group.name}
      {group.muted ? ' · muted' : ''}
    </button>
  );
}
