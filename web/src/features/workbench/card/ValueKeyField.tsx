import type { KeyCurve, ValueKey } from '@warper/core';
import { KEY_CURVES } from '@warper/core';
import { valueCurve, valueOn } from '@warper/core/kernels';
import { useMemo } from 'react';
import { Button, Choice } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { CURVE_NAMES } from './curveNames';

export const NO_KEYS: readonly ValueKey[] = [];

/** Puts a key in the place of one that was at its frame; without a value takes it away. */
export type PutKey = (key: ValueKey | { readonly frame: number; readonly value: null }) => void;

interface Props {
  readonly label: string;
  readonly unit: string;
  readonly digits: number;
  readonly step: number;
  /** The unit of the field in that of the keys. */
  readonly times?: number;
  readonly least?: number;
  readonly most?: number;
  readonly keys: readonly ValueKey[];
  /** What it is without keys. */
  readonly none: number;
  readonly frame: number;
  readonly put: PutKey;
}

/** A number that goes from key to key: what it is at the playhead, and the key there. */
export function ValueKeyField({ keys, none, frame, put, times = 1, ...look }: Props) {
  const { label, unit } = look;
  const here = keys.find((k) => k.frame === frame);
  const value = useMemo(() => keyAt(keys, frame, none).value, [keys, frame, none]);
  const set = (values: Partial<ValueKey>): void => put({ ...keyAt(keys, frame, none), ...values });
  return (
    <>
      <NumberField
        {...look}
        value={value * times}
        onChange={(v) => set({ value: Number((v / times).toFixed(6)) })}
      />
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
            onClick={() => put({ frame, value: null })}
          >
            Remove
          </Button>
        </div>
      )}
      {here?.curve === 'free' && (
        <NumberField
          label={`${label}: slope`}
          unit={unit}
          digits={3}
          step={0.01}
          value={(here.tangent ?? 0) * times}
          onChange={(tangent) => set({ tangent: tangent / times })}
        />
      )}
    </>
  );
}

/** The key at a frame; where there is none, one that leaves the curve where it is there. */
export const keyAt = (keys: readonly ValueKey[], frame: number, none: number): ValueKey =>
  keys.find((k) => k.frame === frame) ?? {
    frame,
    value: valueOn(valueCurve(keys), frame, none),
    curve: 'flat',
    tangent: null,
    into: null,
  };

/** The key of another curve: only a free one has a slope of its own. */
const slopedBy = (curve: KeyCurve): Partial<ValueKey> => ({
  curve,
  tangent: curve === 'free' ? 0 : null,
  into: null,
});
