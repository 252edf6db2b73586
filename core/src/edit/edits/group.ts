import { defined } from '../../math/defined';
import { InputError } from '../../math/errors';
import { groupOf, segmentsOfGroup } from '../../scene/group';
import type { Scene } from '../../scene/scene';
import { defineEdit, rule } from '../defineEdit';
import { pruneGroups } from '../groups';
import { lookup, requireUnusedId } from '../lookup';

/**
 * Makes a group of segments. Groups that are all among them go in as they are, so that groups nest; one that is only in
 * part among them gives those up. The new group takes its place where all of them were.
 */
export interface Group {
  readonly type: 'group';
  readonly id: string;
  readonly name: string;
  readonly segments: readonly string[];
}

export const group = defineEdit<Group>({
  type: 'group',
  schema: { id: rule.id, name: rule.name, segments: rule.ids },
  apply: ({ scene }, { id, name, segments }) => {
    requireUnusedId(scene.groups, id, 'group');
    // A group may be a member beside segments.
    requireUnusedId(scene.segments, id, 'segment');
    for (const s of segments) lookup(scene.segments, s, 'segment');
    if (segments.length === 0) throw new InputError('edit', 'A group needs at least one segment.');
    const wanted = new Set(segments);
    const whole = (group: string): boolean => segmentsOfGroup(scene, group).every((s) => wanted.has(s));
    const members = [...new Set(segments.map((s) => highest(scene, s, whole)))];
    const parents = new Set(members.map((m) => groupOf(scene, m)?.id));
    for (const other of Object.values(scene.groups))
      other.members = other.members.filter((m) => !members.includes(m));
    scene.groups[id] = { id, name, members, folded: false, muted: false };
    const [parent] = parents;
    if (parents.size === 1 && parent !== undefined) defined(scene.groups[parent]).members.push(id);
    pruneGroups(scene);
  },
  describe: ({ name }) => `group ${name}`,
});

/** The outermost group about a segment that is taken as a whole, else the segment. */
function highest(scene: Scene, segment: string, whole: (group: string) => boolean): string {
  let outermost = segment;
  for (let up = groupOf(scene, segment); up && whole(up.id); up = groupOf(scene, up.id)) outermost = up.id;
  return outermost;
}
