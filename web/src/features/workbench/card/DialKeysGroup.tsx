import type { Edit, LayerLane } from '@warper/core';
import { DIALS } from '@warper/core';
import { useMemo } from 'react';
import { commit } from '../../../store/edits';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Group } from '../../../ui/controls';
import { DIAL_LOOKS, DIAL_NAMES } from '../../../ui/dialLooks';
import { KeyFrames } from './KeyFrames';
import { framesOfLists } from './nearKeys';
import { NO_KEYS, ValueKeyField, keyAt } from './ValueKeyField';

/** The posture of a layer, keyed at the playhead: on top of that of the character and of its segments. */
export function DialKeysGroup({ layer }: { readonly layer: LayerLane }) {
  const dispatch = useAppDispatch();
  const frame = useAppSelector((s) => s.session.frame);
  const { dialKeys } = layer;
  const frames = useMemo(() => framesOfLists(dialKeys), [dialKeys]);
  // Those dials that have keys already.
  const keyed = DIAL_NAMES.filter((dial) => dialKeys[dial]);
  const keyHere = (): void => {
    const edits = keyed.map((dial): Edit => {
      const key = keyAt(dialKeys[dial] ?? NO_KEYS, frame, DIALS[dial].none);
      return { type: 'dial key', layer: layer.id, dial, key };
    });
    void dispatch(commit({ type: 'several', label: `key of the posture at frame ${frame}`, edits }));
  };
  return (
    <Group title="Posture">
      {DIAL_NAMES.map((dial) => {
        const { least, most, none } = DIALS[dial];
        const { times } = DIAL_LOOKS[dial];
        return (
          <ValueKeyField
            key={dial}
            {...DIAL_LOOKS[dial]}
            least={least * times}
            most={most * times}
            keys={dialKeys[dial] ?? NO_KEYS}
            none={none}
            frame={frame}
            put={(key) => void dispatch(commit({ type: 'dial key', layer: layer.id, dial, key }))}
          />
        );
      })}
      {keyed.length > 0 && (
        <div>
          <Button onClick={keyHere}>Key the posture at frame {frame}</Button>
        </div>
      )}
      <KeyFrames frames={frames} />
    </Group>
  );
}
