import type { Edit, LayerLane, LayerValues, RootCurve } from '@warper/core';
import { ROOT_CURVES } from '@warper/core';
import { useMemo } from 'react';
import { commit } from '../../../store/edits';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Check, Choice, Group } from '../../../ui/controls';
import { KeyFrames } from './KeyFrames';
import { framesOfLists } from './nearKeys';
import type { PutKey } from './ValueKeyField';
import { NO_KEYS, ValueKeyField, keyAt } from './ValueKeyField';

const FIELDS = {
  left: { label: 'Left', unit: 'm', digits: 3, step: 0.01 },
  up: { label: 'Up', unit: 'm', digits: 3, step: 0.01 },
  forward: { label: 'Forward', unit: 'm', digits: 3, step: 0.01 },
  turn: { label: 'Turn', unit: '°', digits: 1, step: 1 },
} as const;

interface Props {
  readonly layer: LayerLane;
  readonly change: (values: LayerValues) => void;
}

/** Keys that move the whole character: where it is at the playhead, what follows it, and what its feet do meanwhile. */
export function RootKeysGroup({ layer, change }: Props) {
  const dispatch = useAppDispatch();
  const frame = useAppSelector((s) => s.session.frame);
  const put = (curve: RootCurve, key: Parameters<PutKey>[0]): void =>
    void dispatch(commit({ type: 'root key', layer: layer.id, curve, key }));
  // Those curves that have keys already, or all of them.
  const keyed = ROOT_CURVES.filter((curve) => layer.rootKeys[curve]);
  const keyHere = (): void => {
    const edits = (keyed.length > 0 ? keyed : ROOT_CURVES).map((curve): Edit => {
      const keys = layer.rootKeys[curve] ?? NO_KEYS;
      return { type: 'root key', layer: layer.id, curve, key: keyAt(keys, frame, 0) };
    });
    void dispatch(commit({ type: 'several', label: `key of the root at frame ${frame}`, edits }));
  };
  const { rootKeys } = layer;
  const frames = useMemo(() => framesOfLists(rootKeys), [rootKeys]);
  return (
    <Group title="Move the character">
      {ROOT_CURVES.map((curve) => (
        <ValueKeyField
          key={curve}
          {...FIELDS[curve]}
          keys={layer.rootKeys[curve] ?? NO_KEYS}
          none={0}
          frame={frame}
          put={(key) => put(curve, key)}
        />
      ))}
      <div>
        <Button onClick={keyHere}>Key the root at frame {frame}</Button>
      </div>
      <KeyFrames frames={frames} />
      {frames.length > 0 && <WhatFollows layer={layer} change={change} />}
    </Group>
  );
}

/** Whether what follows is moved along, and what feet do meanwhile. */
function WhatFollows({ layer, change }: Props) {
  return (
    <>
      <Check
        label="Carry on what follows"
        checked={layer.carriesOn}
        onChange={(carriesOn) => change({ carriesOn })}
      />
      <Choice
        label="Feet"
        value={layer.rootFeet}
        options={[
          ['step', 'Step after it'],
          ['hold', 'Stay in place'],
          ['slide', 'Slide along'],
        ]}
        onChange={(rootFeet) => change({ rootFeet })}
      />
    </>
  );
}
