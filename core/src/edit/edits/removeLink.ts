import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';
import { momentName } from '../momentName';

/** Takes a link away; what it linked stays where it is. */
export interface RemoveLink {
  readonly type: 'remove link';
  readonly link: string;
}

export const removeLink = defineEdit<RemoveLink>({
  type: 'remove link',
  schema: { link: rule.id },
  apply: ({ scene }, { link }) => {
    lookup(scene.links, link, 'link');
    delete scene.links[link];
  },
  describe: ({ link }, scene) => {
    const follower = scene.links[link]?.follower;
    return follower ? `removal of the link of ${momentName(scene, follower)}` : 'removal of a link';
  },
});
