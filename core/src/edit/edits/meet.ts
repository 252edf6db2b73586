import { castDraft } from 'immer';
import Joi from 'joi';
import { InputError } from '../../math/errors';
import type { Meeting } from '../../scene/meeting';
import { meetingSchema } from '../../scene/meeting';
import { characterName, defineEdit, requireValid, rule, segmentName } from '../defineEdit';
import { lookup } from '../lookup';

/** Has the character of a segment stand to another at a frame, whatever changes before it; null lets it stand where its seam puts it. */
export interface Meet {
  readonly type: 'meet';
  readonly segment: string;
  readonly meeting: Meeting | null;
}

export const meet = defineEdit<Meet>({
  type: 'meet',
  schema: { segment: rule.id, meeting: Joi.object().allow(null).required() },
  apply: (editor, { segment: id, meeting }) => {
    const lane = editor.laneOf(id);
    const segment = lookup(editor.scene.segments, id, 'segment');
    const place = { path: `segments.${id}.meet` };
    if (meeting) {
      requireValid(meetingSchema, meeting, place.path);
      const { name } = lookup(editor.scene.characters, meeting.character, 'character');
      if (lane.kind === 'layer')
        throw new InputError('edit', 'Clips of layers do not move over the floor.', { place });
      if (meeting.character === lane.character)
        throw new InputError('edit', `${name} cannot meet themselves.`, {
          place,
          hint: 'Choose another character.',
        });
    }
    segment.meet = castDraft(meeting);
  },
  describe: ({ segment, meeting }, scene) =>
    meeting
      ? `meeting of ${segmentName(scene, segment)} and ${characterName(scene, meeting.character)}`
      : `end of the meeting at ${segmentName(scene, segment)}`,
});
