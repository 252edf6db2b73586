import { castDraft } from 'immer';
import { schemaOf } from '../../scene/fields';
import type { Marker } from '../../scene/marker';
import { MARKER_FIELDS, PLAIN_MARKER } from '../../scene/marker';
import { defineEdit, requireValid, rule } from '../defineEdit';

/** Puts a marker, in place of the one with its id. */
export interface SetMarker {
  readonly type: 'marker';
  readonly marker: Marker;
}

const schema = schemaOf(MARKER_FIELDS);

export const marker = defineEdit<SetMarker>({
  type: 'marker',
  schema: { marker: rule.entity },
  apply: ({ scene }, { marker }) => {
    const frame = Math.max(0, Math.round(marker.frame));
    const end = marker.end === null ? null : Math.max(frame + 1, Math.round(marker.end));
    const name = String(marker.name).trim().slice(0, 200) || `frame ${frame}`;
    const next = { ...PLAIN_MARKER, ...marker, name, frame, end };
    requireValid(schema, next, `markers.${marker.id}`);
    const others = scene.markers.filter((m) => m.id !== marker.id);
    scene.markers = [...others, castDraft(next)].sort((a, b) => a.frame - b.frame);
  },
  describe: ({ marker }) => `marker ${marker.name}`,
});
