import type { CharacterPlan, LayerLane, LayerValues, Rate, Scene } from '@warper/core';
import { framesPerSecond, defined } from '@warper/core';
import { Button, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { PointList } from '../../../ui/PointList';
import { TextField } from '../../../ui/TextField';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { ContactsGroup } from './ContactsGroup';
import { DialKeysGroup } from './DialKeysGroup';
import { KeysInHandGroup } from './KeysInHandGroup';
import { LayerClips } from './LayerClips';
import { LayerKeys } from './LayerKeys';
import { LayerSpanGroup } from './LayerSpanGroup';
import { linkSides } from '../timeline/layerWork';
import { LookGroup } from './LookGroup';
import { MaskGroup } from './MaskGroup';
import { MoreKeys } from './MoreKeys';
import { MOST_LISTED } from './nearKeys';
import { RootKeysGroup } from './RootKeysGroup';

interface Props {
  readonly layer: LayerLane;
  readonly scene: Scene;
  readonly character: CharacterPlan;
  readonly rate: Rate;
}

/** A layer: what it does to what is below it, where on the body, how much and when. */
export function LayerCard({ layer, scene, character, rate }: Props) {
  const dispatch = useAppDispatch();
  const change = (values: LayerValues): void =>
    void dispatch(commit({ type: 'change layer', layer: layer.id, values }));
  const raise = (by: 1 | -1): void => void dispatch(commit({ type: 'raise layer', layer: layer.id, by }));
  const remove = (): void => {
    dispatch(commit({ type: 'remove layer', layer: layer.id }));
    dispatch(sessionActions.selected({ kind: 'character', id: layer.character }));
  };
  return (
    <>
      <p className="text-soft">Layer · {character.character.name}</p>
      <h2 className="mb-2 text-title font-bold">{layer.name}</h2>
      <LinkLine layer={layer} scene={scene} />
      <BlendGroup layer={layer} change={change} />
      <MaskGroup layer={layer} skeleton={character.skeleton} hue={character.character.hue} change={change} />
      <LayerSpanGroup
        layer={layer}
        framesPerSecond={framesPerSecond(rate)}
        onChange={(span) => change({ span })}
      />
      <LayerClips layer={layer} scene={scene} framesPerSecond={framesPerSecond(rate)} />
      <LayerKeys layer={layer} character={character} />
      <RootKeysGroup layer={layer} change={change} />
      <ContactsGroup layer={layer} plan={character} change={change} />
      <DialKeysGroup layer={layer} />
      <LookGroup look={layer.look} plan={character} onChange={(look) => change({ look })} />
      <KeysInHandGroup layer={layer} />
      <div className="flex flex-wrap gap-2 border-t pt-3">
        <Button onClick={() => raise(1)}>Move up</Button>
        <Button onClick={() => raise(-1)}>Move down</Button>
        <Button onClick={remove}>Remove layer</Button>
      </div>
    </>
  );
}

/** Which layer is its other side, if any. */
function LinkLine({ layer, scene }: Pick<Props, 'layer' | 'scene'>) {
  const dispatch = useAppDispatch();
  const other = layer.pair === null ? undefined : scene.lanes[layer.pair];
  if (other?.kind !== 'layer') return null;
  return (
    <p className="flex items-baseline justify-between gap-2 pb-2 text-soft">
      <span className="min-w-0">Linked with {other.name}: what is done to one is done to both.</span>
      <Button look="bare" className="border-b border-dotted" onClick={() => dispatch(linkSides(layer))}>
        Part
      </Button>
    </p>
  );
}

interface FieldProps {
  readonly layer: LayerLane;
  readonly change: (values: LayerValues) => void;
}

function BlendGroup({ layer, change }: FieldProps) {
  const frame = useAppSelector((s) => s.session.frame);
  const setWeight = (points: readonly (readonly number[])[]): void =>
    change({
      weight: points.map(([f, v]) => [defined(f), defined(v)] as const).sort((a, b) => a[0] - b[0]),
    });
  return (
    <Group title="Blend">
      <TextField label="Name" value={layer.name} onChange={(name) => name && change({ name })} />
      <Choice
        label="Blend"
        value={layer.blend}
        options={[
          ['override', 'Override'],
          ['additive', 'Additive'],
        ]}
        onChange={(blend) => change({ blend })}
      />
      {layer.blend === 'additive' && <ReferenceChoice layer={layer} change={change} />}
      {layer.weight.length > MOST_LISTED ? (
        <MoreKeys count={layer.weight.length} shown={0} />
      ) : (
        <PointList
          title="Weight"
          points={layer.weight}
          columns={[
            { label: 'At frame', unit: 'f' },
            { label: 'Weight', unit: '%', digits: 1, times: 100, least: 0, most: 100, step: 5 },
          ]}
          onChange={setWeight}
          next={() => [frame, 1]}
          add="Add weight at the playhead"
        />
      )}
      {layer.weight.length > 1 && (
        <Choice
          label="Weight goes"
          value={layer.weightShape}
          options={[
            ['linear', 'Straight'],
            ['smooth', 'Smoothly'],
          ]}
          onChange={(weightShape) => change({ weightShape })}
        />
      )}
    </Group>
  );
}

function ReferenceChoice({ layer, change }: FieldProps) {
  const { reference } = layer;
  return (
    <>
      <Choice
        label="Reference"
        value={typeof reference === 'number' ? 'sample' : reference}
        options={[
          ['first', 'First pose'],
          ['rest', 'Rest pose'],
          ['sample', 'Sample'],
        ]}
        onChange={(to) => change({ reference: to === 'sample' ? 0 : to })}
      />
      {typeof reference === 'number' && (
        <NumberField
          label="Sample"
          least={0}
          value={reference}
          onChange={(sample) => change({ reference: Math.round(sample) })}
        />
      )}
    </>
  );
}
