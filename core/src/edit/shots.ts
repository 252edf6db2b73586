import type { Draft } from 'immer';
import { castDraft } from 'immer';
import type { Shot } from '../scene/shot';
import { shotsInOrder } from '../scene/shot';

type Shots = Draft<Record<string, Shot>>;

/** Cuts away what a shot that is to come covers of the others: wholly covered ones go, one around it goes on after it. */
export function makeRoomForShot(shots: Shots, { id, start, end }: Shot): void {
  for (const other of Object.values(shots)) {
    if (other.end <= start || other.start >= end) continue;
    const rest = other.end > end ? { ...other, start: end, blend: 0 } : null;
    if (other.start < start) {
      if (rest) {
        const free = freeId(shots, `${other.id}-${id}`);
        shots[free] = castDraft({ ...rest, id: free });
      }
      other.end = start;
      other.blend = Math.min(other.blend, other.end - other.start);
    } else if (rest) Object.assign(other, { start: end, blend: Math.min(other.blend, other.end - end) });
    else delete shots[other.id];
  }
}

function freeId(shots: Shots, wanted: string): string {
  const base = wanted.slice(0, 190);
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}-${n}`;
    if (!shots[id]) return id;
  }
}

/** Gives a shot another span. Neighbours that join it go along with its ends, and are shortened where it reaches into them. */
export function layShot(shots: Shots, id: string, start: number, end: number): void {
  const order = shotsInOrder(shots);
  const index = order.findIndex((s) => s.id === id);
  const [before, shot, after] = [order[index - 1], order[index], order[index + 1]];
  if (!shot) return;
  const least = before ? before.start + 1 : -1e7;
  const most = after ? after.end - 1 : 1e7;
  const clamp = (v: number, low: number, high: number): number =>
    Math.min(Math.max(Math.round(v), low), high);
  const length = shot.end - shot.start;
  // A shot that is moved as a whole keeps its length; one whose end is moved keeps the other.
  const isMoved = end - start === length;
  const first = isMoved
    ? clamp(start, least, Math.max(least, most - length))
    : clamp(Math.min(start, shot.end - 1), least, most - 1);
  const last = isMoved ? Math.min(first + length, most) : clamp(end, first + 1, most);
  if (before && (before.end === shot.start || before.end > first)) setEnd(before, first);
  if (after && (after.start === shot.end || after.start < last)) {
    after.start = last;
    after.blend = Math.min(after.blend, after.end - last);
  }
  shot.start = first;
  setEnd(shot, last);
}

function setEnd(shot: Draft<Shot>, end: number): void {
  shot.end = end;
  shot.blend = Math.min(shot.blend, end - shot.start);
}

/** Moves on what fell together when frames became fewer: every shot has a frame at least, and begins after the one before. */
export function spreadShots(shots: Shots): void {
  let from = -Infinity;
  for (const shot of shotsInOrder(shots)) {
    shot.start = Math.max(shot.start, from);
    setEnd(shot, Math.max(shot.end, shot.start + 1));
    from = shot.end;
  }
}
