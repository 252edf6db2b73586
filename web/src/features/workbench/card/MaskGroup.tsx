import type { LayerLane, LayerValues, Skeleton } from '@warper/core';
import { useState } from 'react';
import { Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { TextField } from '../../../ui/TextField';
import { MaskFigure } from './MaskFigure';
import { maskPresets } from './maskEdits';

interface Props {
  readonly layer: LayerLane;
  readonly skeleton: Skeleton;
  readonly hue: number;
  readonly change: (values: LayerValues) => void;
}

/** What of the body a layer moves: on a drawn figure, by the name of a part, or as text for odd skeletons. */
export function MaskGroup({ layer, skeleton, hue, change }: Props) {
  const presets = maskPresets(skeleton);
  const same = JSON.stringify(layer.mask);
  const chosen = presets.findIndex((p) => JSON.stringify(p.mask) === same);
  return (
    <Group title="Mask">
      <Choice
        label="Part of the body"
        value={String(chosen)}
        options={[
          ...presets.map((p, i) => [String(i), p.name] as const),
          ...(chosen < 0 ? [['-1', 'As marked'] as const] : []),
        ]}
        onChange={(index) => {
          const preset = presets[Number(index)];
          if (preset) change({ mask: preset.mask });
        }}
      />
      <MaskFigure
        skeleton={skeleton}
        hue={hue}
        mask={layer.mask}
        softness={layer.softness}
        onChange={(mask) => change({ mask })}
      />
      <p className="text-note text-soft">
        Press a limb to take it in or out with what hangs on it, with Shift alone.
      </p>
      <NumberField
        label="Soft edge, bones"
        least={0}
        most={20}
        value={layer.softness}
        onChange={(softness) => change({ softness: Math.round(softness) })}
      />
      <MaskField layer={layer} change={change} />
    </Group>
  );
}

/** The bones of a mask as text: names with a star for the chain below, and a weight behind a colon. */
function MaskField({ layer, change }: Pick<Props, 'layer' | 'change'>) {
  const [wrong, setWrong] = useState(false);
  const text = layer.mask.map((m) => (m.weight === 1 ? m.bone : `${m.bone}: ${m.weight}`)).join(', ');
  const set = (value: string): void => {
    const parts = value
      .split(',')
      .map((p) => p.trim())
      .filter(Boolean);
    const mask = parts.map((p) => {
      const [bone, weight] = p.split(':').map((v) => v.trim());
      return { bone: bone ?? '', weight: weight === undefined ? 1 : Number(weight) };
    });
    const fine = mask.every((m) => m.bone && m.weight >= 0 && m.weight <= 1);
    setWrong(!fine);
    if (fine) change({ mask });
  };
  return (
    <>
      <TextField label="Bones" value={text} placeholder="all" onChange={set} />
      {wrong && <p className="text-bad">Weights go from 0 to 1: rightUpperArm*: 0.5</p>}
      <p className="text-note text-soft">Roles or joints, a star takes the chain below: rightUpperArm*</p>
    </>
  );
}
