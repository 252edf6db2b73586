import type { Entity } from './fields';
import { given, setting } from './fields';
import { id, ids, text, yes } from './rules';
import type { Scene } from './scene';

/** What is known of a group. */
export const GROUP_FIELDS = {
  id: given<string>(id),
  name: given<string>(text),
  /** Ids of segments and of groups in it; each belongs to one group at most. */
  members: given<readonly string[]>(ids),
  /** Whether it is drawn as one block. */
  folded: setting<boolean>(false, yes),
  /** Whether its segments are left out of the performance, though they keep their place. */
  muted: setting<boolean>(false, yes),
};

/** Segments, of one or several characters, that are handled as one. */
export type SegmentGroup = Entity<typeof GROUP_FIELDS>;

/** The segments of a group and of the groups in it. */
export function segmentsOfGroup(scene: Scene, group: string): string[] {
  const members = scene.groups[group]?.members ?? [];
  return members.flatMap((m) => (scene.groups[m] ? segmentsOfGroup(scene, m) : [m]));
}

/** The group that a segment or group is directly in. */
export const groupOf = (scene: Scene, member: string): SegmentGroup | undefined =>
  Object.values(scene.groups).find((g) => g.members.includes(member));

/** The outermost group that a segment is in. */
export function outermostGroup(scene: Scene, segment: string): SegmentGroup | undefined {
  let outermost = groupOf(scene, segment);
  for (let next = outermost; next; next = groupOf(scene, next.id)) outermost = next;
  return outermost;
}

/** The segments that are left out because a group of theirs is muted. */
export function mutedSegments(scene: Scene): ReadonlySet<string> {
  const muted = Object.values(scene.groups).filter((g) => g.muted);
  return new Set(muted.flatMap((g) => segmentsOfGroup(scene, g.id)));
}
