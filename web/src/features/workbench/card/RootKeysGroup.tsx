import type { Edit, KeyCurve, LayerLane, LayerValues, RootCurve, ValueKey } from '@warper/core';
import { KEY_CURVES, ROOT_CURVES } from '@warper/core';
import { valueCurve, valueOn } from '@warper/core/kernels';
import { useMemo } from 'react';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Check, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { CURVE_NAMES } from './curveNames';
import { MoreKeys } from './MoreKeys';
import { framesNear } from './nearKeys';

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
  const put = (curve: RootCurve, key: ValueKey | { readonly frame: number; readonly value: null }): void =>
    void dispatch(commit({ type: 'root key', layer: layer.id, curve, key }));
  // Those curves that have keys already, or all of them.
  const keyed = ROOT_CURVES.filter((curve) => layer.rootKeys[curve]);
  const keyHere = (): void => {
    const edits = (keyed.length > 0 ? keyed : ROOT_CURVES).map((curve): Edit => {
      const keys = layer.rootKeys[curve] ?? NO_KEYS;
      return { type: 'root key', layer: layer.id, curve, key: keyAt(keys, frame) };
    });
    void dispatch(commit({ type: 'several', label: `key of the root at frame ${frame}`, edits }));
  };
  const { rootKeys } = layer;
  const frames = useMemo(
    () =>
      [...new Set(Object.values(rootKeys).flatMap((keys) => keys.map((k) => k.frame)))].sort((a, b) => a - b),
    [rootKeys],
  );
  const listed = framesNear(frames, frame);
  return (
    <Group title="Move the character">
      {ROOT_CURVES.map((curve) => (
        <RootField
          key={curve}
          curve={curve}
          keys={layer.rootKeys[curve] ?? NO_KEYS}
          frame={frame}
          put={put}
        />
      ))}
      <div>
        <Button onClick={keyHere}>Key the root at frame {frame}</Button>
      </div>
      <MoreKeys count={frames.length} shown={listed.length} />
      <ul>
        {listed.map((at) => (
          <li key={at}>
            <Button look="bare" className="hover:underline" onClick={() => dispatch(sessionActions.went(at))}>
              Frame {at}
            </Button>
          </li>
        ))}
      </ul>
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

const NO_KEYS: readonly ValueKey[] = [];

interface RootFieldProps {
  readonly curve: RootCurve;
  readonly keys: readonly ValueKey[];
  readonly frame: number;
  readonly put: (curve: RootCurve, key: ValueKey | { readonly frame: number; readonly value: null }) => void;
}

/** One curve at the playhead; what is typed there becomes a key. */
function RootField({ curve, keys, frame, put }: RootFieldProps) {
  const here = keys.find((k) => k.frame === frame);
  const value = useMemo(() => keyAt(keys, frame).value, [keys, frame]);
  const { label, ...looks } = FIELDS[curve];
  const set = (values: Partial<ValueKey>): void => put(curve, { ...keyAt(keys, frame), ...values });
  return (
    <>
      <NumberField label={label} {...looks} value={value} onChange={(v) => set({ value: v })} />
      {here && (
        <div className="mb-1 flex items-baseline justify-between gap-2 border-l-2 pl-2">
          <Choice
            label={`${label}: key`}
            value={here.curve}
            options={KEY_CURVES.map((c) => [c, CURVE_NAMES[c]] as const)}
            onChange={(to) => set(slopedBy(to))}
          />
          <Button
            look="soft"
            className="text-note"
            aria-label={`Remove the key of ${label.toLowerCase()} at frame ${frame}`}
            onClick={() => put(curve, { frame, value: null })}
          >
            Remove
          </Button>
        </div>
      )}
      {here?.curve === 'free' && (
        <NumberField
          label={`${label}: slope`}
          unit={looks.unit}
          digits={3}
          step={0.01}
          value={here.tangent ?? 0}
          onChange={(tangent) => set({ tangent })}
        />
      )}
    </>
  );
}

/** The key at a frame; where there is none, one that leaves the curve where it is there. */
const keyAt = (keys: readonly ValueKey[], frame: number): ValueKey =>
  keys.find((k) => k.frame === frame) ?? {
    frame,
    value: valueOn(valueCurve(keys), frame, 0),
    curve: 'flat',
    tangent: null,
    into: null,
  };

/** A key of another curve: only a free one has a slope of its own. */
const slopedBy = (curve: KeyCurve): Partial<ValueKey> => ({
  curve,
  tangent: curve === 'free' ? 0 : null,
  into: null,
});
