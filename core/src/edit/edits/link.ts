import { castDraft } from 'immer';
import { schemaOf } from '../../scene/fields';
import { InputError } from '../../math/errors';
import type { Link } from '../../scene/link';
import { LINK_FIELDS, isSameMoment } from '../../scene/link';
import type { Scene } from '../../scene/scene';
import { frameOfMoment } from '../momentFrame';
import { defineEdit, requireValid, rule } from '../defineEdit';
import { momentName } from '../momentName';
import { snapshot } from '../snapshot';

/** Has something wait for an event, in place of the link with its id; what it names is moved there. */
export interface SetLink {
  readonly type: 'link';
  readonly link: Link;
}

const schema = schemaOf(LINK_FIELDS);

export const link = defineEdit<SetLink>({
  type: 'link',
  schema: { link: rule.entity },
  apply: ({ scene, library }, { link }) => {
    const place = { path: `links.${link.id}` };
    requireValid(schema, link, place.path);
    for (const moment of [link.follower, link.leader])
      if (frameOfMoment(snapshot<Scene>(scene), moment, library) === null)
        throw new InputError('edit', 'What is to be linked is not there, or has no end.', { place });
    if (isSameMoment(link.follower, link.leader))
      throw new InputError('edit', 'Nothing can wait for itself.', { place, hint: 'Choose another event.' });
    for (const other of Object.values(scene.links))
      if (other.id !== link.id && isSameMoment(other.follower, link.follower)) delete scene.links[other.id];
    scene.links[link.id] = castDraft(link);
  },
  describe: ({ link }, scene) => `link of ${momentName(scene, link.follower)}`,
});
