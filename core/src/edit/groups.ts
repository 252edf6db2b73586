import type { Draft } from 'immer';
import type { Scene } from '../scene/scene';

/** Puts a segment into the group that another is in. */
export function joinGroup(draft: Draft<Scene>, like: string, id: string): void {
  for (const group of Object.values(draft.groups)) if (group.members.includes(like)) group.members.push(id);
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
