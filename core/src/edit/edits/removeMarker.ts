import { defineEdit, rule } from '../defineEdit';

/** Takes a marker away. */
export interface RemoveMarker {
  readonly type: 'remove marker';
  readonly marker: string;
}

export const removeMarker = defineEdit<RemoveMarker>({
  type: 'remove marker',
  schema: { marker: rule.id },
  apply: ({ scene }, { marker }) => {
    scene.markers = scene.markers.filter((m) => m.id !== marker);
  },
  describe: ({ marker }, scene) =>
    `removal of the marker ${scene.markers.find((m) => m.id === marker)?.name ?? ''}`.trim(),
});
