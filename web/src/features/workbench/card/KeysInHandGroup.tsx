import type { LayerLane } from '@warper/core';
import { chosenSpan } from '@warper/core';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { LinkGroup } from './LinkGroup';
import {
  changeKeys,
  chosenOf,
  copyKeysInHand,
  countOf,
  movedKeys,
  pasteKeysAtPlayhead,
  removeKeysInHand,
  scaledKeys,
} from '../timeline/keysInHand';

/** The keys that are in hand on the lane of a layer: moved, drawn out in time, copied; and those copied, put in. */
export function KeysInHandGroup({ layer }: { readonly layer: LayerLane }) {
  const dispatch = useAppDispatch();
  const inHand = useAppSelector((s) => s.session.keysInHand);
  const copied = useAppSelector((s) => s.session.copiedKeys);
  const frame = useAppSelector((s) => s.session.frame);
  const chosen = chosenOf(inHand, layer.id);
  const span = chosenSpan(chosen);
  if (!span && !copied) return null;
  const count = countOf(chosen);
  return (
    <>
      <Group title="Keys in hand">
        {span && (
          <>
            <p className="text-soft">
              {count === 1
                ? `One key, at frame ${span[0]}`
                : `${count} keys, frames ${span[0]} to ${span[1]}`}
            </p>
            <NumberField
              label="First at frame"
              unit="f"
              value={span[0]}
              onChange={(to) =>
                dispatch(changeKeys(layer.id, movedKeys(layer, chosen, Math.round(to) - span[0])))
              }
            />
            {span[1] > span[0] && (
              <NumberField
                label="Length"
                unit="f"
                least={1}
                value={span[1] - span[0]}
                onChange={(to) =>
                  dispatch(
                    changeKeys(layer.id, scaledKeys(layer, chosen, Math.round(to) / (span[1] - span[0]))),
                  )
                }
              />
            )}
          </>
        )}
        <div className="flex flex-wrap gap-1.5 pt-1">
          <Button disabled={!span} onClick={() => dispatch(copyKeysInHand(layer, chosen))}>
            Copy keys
          </Button>
          <Button disabled={!copied} onClick={() => dispatch(pasteKeysAtPlayhead(layer))}>
            Paste keys at frame {frame}
          </Button>
          <Button disabled={!span} onClick={() => dispatch(removeKeysInHand(layer, chosen))}>
            Remove keys
          </Button>
        </div>
      </Group>
      {span?.[0] === span?.[1] && span && <LinkGroup of="keys" id={layer.id} at={span[0]} />}
    </>
  );
}
