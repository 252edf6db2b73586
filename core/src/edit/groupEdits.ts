import type { Draft } from 'immer';
import { InputError } from '../math/errors';
import type { Scene, SegmentGroup } from '../scene/scene';
import { groupOf, segmentsOfGroup } from '../scene/scene';
import { lookup, requireUnusedId } from './lookup';

/** What of a group can be set. */
export type GroupValues = Partial<Pick<SegmentGroup, 'name' | 'folded' | 'muted'>>;

/**
 * Makes a group of segments. Groups that are all among them go in as they are, so that groups nest; one that is only in
 * part among them gives those up. The new group takes its place where all of them were.
 */
export function makeGroup(draft: Draft<Scene>, id: string, name: string, segments: readonly string[]): void {
  requireUnusedId(draft.groups, id, 'group');
  // A group may be a member beside segments.
  requireUnusedId(draft.segments, id, 'segment');
  for (const s of segments) lookup(draft.segments, s, 'segment');
  if (segments.length === 0) throw new InputError('edit', 'A group needs at least one segment.');
  const wanted = new Set(segments);
  const whole = (group: string): boolean => segmentsOfGroup(draft, group).every((s) => wanted.has(s));
  const members = [...new Set(segments.map((s) => highest(draft, s, whole)))];
  const parents = new Set(members.map((m) => groupOf(draft, m)?.id));
  for (const group of Object.values(draft.groups))
    group.members = group.members.filter((m) => !members.includes(m));
  draft.groups[id] = { id, name, members, folded: false, muted: false };
  const [parent] = parents;
  if (parents.size === 1 && parent !== undefined) draft.groups[parent]!.members.push(id);
  pruneGroups(draft);
}

/** The outermost group about a segment that is taken as a whole, else the segment. */
function highest(scene: Scene, segment: string, whole: (group: string) => boolean): string {
  let found = segment;
  for (let up = groupOf(scene, segment); up && whole(up.id); up = groupOf(scene, up.id)) found = up.id;
  return found;
}

/** Takes a group apart; what was in it goes to the group that it was in. */
export function ungroup(draft: Draft<Scene>, id: string): void {
  const { members } = lookup(draft.groups, id, 'group');
  const parent = groupOf(draft, id);
  if (parent) {
    const { members: around } = draft.groups[parent.id]!;
    around.splice(around.indexOf(id), 1, ...members);
  }
  delete draft.groups[id];
}

/** Sets values of a group. */
export function changeGroup(draft: Draft<Scene>, id: string, values: GroupValues): void {
  const group = lookup(draft.groups, id, 'group');
  Object.assign(group, values);
  group.name = group.name.trim().slice(0, 200) || id;
}

/** Drops members that are gone, and groups without any. */
export function pruneGroups(draft: Draft<Scene>): void {
  for (let again = true; again;) {
    again = false;
    for (const group of Object.values(draft.groups)) {
      const left = group.members.filter((m) => draft.segments[m] || draft.groups[m]);
      if (left.length < group.members.length) group.members = left;
      if (left.length > 0) continue;
      delete draft.groups[group.id];
      again = true;
    }
  }
}
