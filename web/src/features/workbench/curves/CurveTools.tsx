import type { ChannelKey, Edit, KeyCurve } from '@warper/core';
import { KEY_CURVES } from '@warper/core';
import { useState } from 'react';
import { Button, Check } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { Select } from '../../../ui/Select';
import { useAppSelector } from '../../../store/store';
import { CURVE_NAMES } from '../card/curveNames';
import {
  addKeys,
  breakChosen,
  curveChosen,
  removeChosen,
  scaleChosen,
  setKey,
  smoothChosen,
} from './curveEdits';
import type { ChosenOnTracks, CurveSource, Track } from './curveSource';
import { useKeyClipboard } from './useKeyClipboard';

interface Props {
  readonly source: CurveSource;
  readonly tracks: readonly Track[];
  readonly chosen: ChosenOnTracks;
  /** Carries out an edit; keys of another place are in hand afterwards, if any are given. */
  readonly onEdit: (edit: Edit | null, chosen?: ChosenOnTracks) => void;
  readonly onFit: () => void;
}

const field = 'w-40 shrink-0';

/** What can be done with the keys in hand. */
export function CurveTools({ source, tracks, chosen, onEdit, onFit }: Props) {
  const frame = useAppSelector((s) => s.session.frame);
  const { onCopy, onPaste } = useKeyClipboard(source, chosen, onEdit);
  const keys = chosenKeys(source, chosen);
  const count = keys.length;
  const wanted = count > 0 ? [...chosen.keys()] : tracks.map((t) => t.id);
  const add = (): void =>
    onEdit(addKeys(source, wanted, frame), new Map(wanted.map((id) => [id, new Set([frame])])));
  return (
    <div
      role="toolbar"
      aria-label="Keys"
      className="flex h-9 shrink-0 items-center gap-3 overflow-x-auto border-b px-3 text-small whitespace-nowrap"
    >
      <Button look="soft" onClick={onFit} title="Show all keys">
        Fit
      </Button>
      <Button look="soft" onClick={add} disabled={wanted.length === 0}>
        Add key at {frame}
      </Button>
      {onPaste && (
        <Button look="soft" onClick={onPaste}>
          Paste keys at {frame}
        </Button>
      )}
      {count === 0 ? (
        <span className="text-soft">
          Press a key, or drag a box around several. Double-click a curve for a new key.
        </span>
      ) : (
        <ChosenTools {...{ source, chosen, keys, onEdit, onCopy }} />
      )}
    </div>
  );
}

interface KeyInHand {
  readonly track: string;
  readonly key: ChannelKey;
}

const chosenKeys = (source: CurveSource, chosen: ChosenOnTracks): KeyInHand[] =>
  [...chosen].flatMap(([track, frames]) => source.keysAt(track, frames).map((key) => ({ track, key })));

interface ChosenProps extends Pick<Props, 'source' | 'chosen' | 'onEdit'> {
  readonly keys: readonly KeyInHand[];
  readonly onCopy: (() => void) | null;
}

function ChosenTools({ source, chosen, keys, onEdit, onCopy }: ChosenProps) {
  const one = keys.length === 1 ? keys[0] : undefined;
  const curves = new Set(keys.map(({ key }) => key.curve));
  const [only] = curves;
  return (
    <>
      {one ? <OneKey source={source} inHand={one} onEdit={onEdit} /> : <span>{keys.length} keys</span>}
      {source.hasSlopes && (
        <Select<KeyCurve | 'mixed'>
          label="Interpolation"
          value={curves.size === 1 && only ? only : 'mixed'}
          options={[
            ...(curves.size > 1 ? [['mixed', 'Mixed'] as const] : []),
            ...KEY_CURVES.map((c) => [c, CURVE_NAMES[c]] as const),
          ]}
          onChange={(curve) => curve !== 'mixed' && onEdit(curveChosen(source, chosen, curve))}
        />
      )}
      {source.hasSlopes && curves.has('free') && (
        <Check
          label="Broken handles"
          checked={keys.every(({ key }) => key.broken)}
          onChange={(broken) => onEdit(breakChosen(source, chosen, broken))}
        />
      )}
      {onCopy && (
        <Button look="soft" onClick={onCopy}>
          Copy
        </Button>
      )}
      {keys.length > 1 && <ShapeTools source={source} chosen={chosen} onEdit={onEdit} />}
      <Button look="soft" onClick={() => onEdit(removeChosen(source, chosen), new Map())}>
        Delete
      </Button>
    </>
  );
}

function OneKey({
  source,
  inHand,
  onEdit,
}: Pick<Props, 'source' | 'onEdit'> & { readonly inHand: KeyInHand }) {
  const { track, key } = inHand;
  const { frame, value } = key;
  const unit = source.tracks.find((t) => t.id === track)?.unit ?? '';
  return (
    <>
      <div className={field}>
        <NumberField
          label="Frame"
          value={frame}
          digits={0}
          onChange={(to) =>
            onEdit(
              source.move(new Map([[track, new Set([frame])]]), Math.round(to) - frame, 0),
              new Map([[track, new Set([Math.round(to)])]]),
            )
          }
        />
      </div>
      <div className={field}>
        <NumberField
          label="Value"
          unit={unit}
          digits={2}
          value={value}
          onChange={(to) => onEdit(setKey(source, track, frame, { value: to }, 'value of a key'))}
        />
      </div>
    </>
  );
}

/** What is done to several keys at once. */
function ShapeTools({ source, chosen, onEdit }: Pick<Props, 'source' | 'chosen' | 'onEdit'>) {
  const [error, setError] = useState(0.5);
  const first = Math.min(...[...chosen.values()].flatMap((frames) => [...frames]));
  const stretched = (by: number): ChosenOnTracks =>
    new Map(
      [...chosen].map(([id, frames]) => [
        id,
        new Set([...frames].map((f) => Math.round(first + (f - first) * by))),
      ]),
    );
  return (
    <>
      <div className={field}>
        <NumberField
          label="Values ×"
          value={1}
          digits={2}
          step={0.05}
          onChange={(values) => onEdit(scaleChosen(source, chosen, { frames: 1, values }))}
        />
      </div>
      <div className={field}>
        <NumberField
          label="Time ×"
          value={1}
          digits={2}
          step={0.05}
          least={0.01}
          onChange={(frames) => onEdit(scaleChosen(source, chosen, { frames, values: 1 }), stretched(frames))}
        />
      </div>
      <Button look="soft" onClick={() => onEdit(smoothChosen(source, chosen))}>
        Smooth
      </Button>
      {source.hasSlopes && (
        <>
          <Button
            look="soft"
            title="Leave out keys whose curve stays within the error, on the whole of each curve in hand"
            onClick={() => onEdit(source.reduce([...chosen.keys()], error), new Map())}
          >
            Reduce keys
          </Button>
          <div className={field}>
            <NumberField label="Error" value={error} digits={2} step={0.1} least={0} onChange={setError} />
          </div>
        </>
      )}
    </>
  );
}
