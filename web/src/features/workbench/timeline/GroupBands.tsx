import type { Scene, SegmentGroup } from '@warper/core';
import { segmentsOfGroup, defined } from '@warper/core';
import { useMemo, useRef } from 'react';
import { commit, preview } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import type { Row } from './rows';
import type { TimelineDrag } from './useTimelineDrag';
import { useTimelineDrag } from './useTimelineDrag';
import { Button } from '../../../ui/controls';

interface Band {
  readonly group: SegmentGroup;
  readonly from: number;
  readonly to: number;
  readonly top: number;
  readonly height: number;
  readonly depth: number;
  readonly count: number;
  /** Pixels by which its name gives way to those of the groups around it. */
  readonly indent: number;
}

/** Height of a bracket under its segments, and how far inner ones lie above outer ones, pixels. */
const BRACKET = { height: 12, step: 3, most: 6 };
/** Pixels of a letter, about, and around a name. */
const LETTER = { width: 6.2, around: 14 };

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

function findBands(scene: Scene, rows: readonly Row[]): Band[] {
  const bands: Band[] = [];
  const visit = (group: SegmentGroup, depth: number, around: readonly Band[]): void => {
    const members = new Set(segmentsOfGroup(scene, group.id));
    const found: Band[] = [];
    for (const row of rows) {
      if (row.folded) continue;
      // Muted segments are on no plan, but keep their place.
      const own = row.lane.segments
        .filter((s) => members.has(s))
        .map((s) => {
          const segment = defined(scene.segments[s]);
          const planned = row.segments.find((p) => p.id === s);
          return { start: segment.start, end: planned?.end ?? segment.start + 1 };
        });
      if (own.length === 0) continue;
      const from = Math.min(...own.map((s) => s.start));
      const beside = around.find((b) => b.top === row.top && b.from === from);
      found.push({
        group,
        depth,
        from,
        to: Math.max(...own.map((s) => s.end)),
        top: row.top,
        height: row.height,
        count: own.length,
        indent: beside ? beside.indent + bandName(beside.group).length * LETTER.width + LETTER.around : 0,
      });
    }
    bands.push(...found);
    if (group.folded) return;
    for (const m of group.members) if (scene.groups[m]) visit(scene.groups[m], depth + 1, found);
  };
  const inner = new Set(Object.values(scene.groups).flatMap((g) => g.members));
  for (const group of Object.values(scene.groups)) if (!inner.has(group.id)) visit(group, 0, []);
  return bands;
}

const bandName = ({ name, muted }: SegmentGroup): string => (muted ? `${name} · muted` : name);

interface GroupBandProps {
  readonly band: Band;
  readonly members: readonly string[];
  /** Pixels of a frame. */
  readonly ppf: number;
}

function GroupBand({ band, members, ppf }: GroupBandProps) {
  const dispatch = useAppDispatch();
  const { group, from, to, top, height, depth, count, indent } = band;
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
  // All names stand on one line, at the foot of the lane.
  const above = Math.min(depth * BRACKET.step, BRACKET.most);
  const look = 'absolute z-10 touch-none cursor-grab text-left text-tick';
  return group.folded ? (
    <Button
      look="bare"
      aria-label={label}
      aria-pressed={selected}
      className={`${look} truncate rounded-[4px] border border-soft bg-raised px-2 font-semibold ${selected ? 'ring-2 ring-ink' : ''}`}
      style={{ left: from * ppf, width: (to - from) * ppf, top: top + 4, height: height - 18 }}
      onKeyDown={keys}
      {...bind()}
    >
      {group.name}{' '}
      <span className="font-normal text-soft">
        · {count} segments{group.muted ? ', muted' : ''}
      </span>
    </Button>
  ) : (
    <Button
      look="bare"
      aria-label={label}
      aria-pressed={selected}
      className={`${look} rounded-b-[4px] border-t-0! ${selected ? 'border-2 border-ink font-semibold' : 'border border-ink/60 text-soft'}`}
      style={{
        left: from * ppf,
        width: (to - from) * ppf,
        top: top + height - BRACKET.height - 1 - above,
        height: BRACKET.height,
      }}
      onKeyDown={keys}
      {...bind()}
    >
      <span
        className="absolute left-1.5 truncate bg-paper px-1 leading-[12px]"
        style={{ marginLeft: indent, top: above - 1, maxWidth: Math.max(0, (to - from) * ppf - indent - 12) }}
      >
        {bandName(group)}
      </span>
    </Button>
  );
}
