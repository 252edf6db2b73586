import type { CharacterPlan, CharacterValues, Prop } from '@warper/core';
import { PROP_SIZE, SAME_HEIGHT, defined, movedProp, supportsAt } from '@warper/core';
import { useStore } from 'react-redux';
import { keepProp } from '../../../data/props';
import { commit, refuse, removeCharacter } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import type { RootState } from '../../../store/store';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Check, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { TextField } from '../../../ui/TextField';
import { LayerList } from './LayerList';
import { ORIGIN, PlaceFields } from './PlaceFields';
import { TetherList } from './TetherList';

/** A prop: what it looks like, where it is, who holds it. */
export function PropCard({ plan }: { readonly plan: CharacterPlan }) {
  const dispatch = useAppDispatch();
  const { id, name, prop, body, shown } = plan.character;
  const change = (values: CharacterValues): void =>
    void dispatch(commit({ type: 'change character', character: id, values }));
  const remake = (values: Partial<Prop>): void => {
    const next = { ...defined(prop), ...values };
    const made = isMade(values) ? keepProp(next) : Promise.resolve(body);
    made.then(
      (made) => dispatch(commit({ type: 'change prop', character: id, body: made, prop: next })),
      (error: unknown) => dispatch(refuse(error)),
    );
  };
  if (!prop) return null;
  return (
    <>
      <p className="text-soft">Prop</p>
      <h2 className="mb-2 text-title font-bold">{name}</h2>
      <Group title="Prop">
        <TextField label="Name" value={name} onChange={(next) => change({ name: next })} />
        {prop.shape !== 'own file' && <LookFields prop={prop} onChange={remake} />}
        <Check
          label="Shown"
          checked={shown !== 'nothing'}
          onChange={(on) => change({ shown: on ? 'mesh' : 'nothing' })}
        />
      </Group>
      <PlaceGroup plan={plan} prop={prop} onChange={remake} />
      <TetherList id={id} />
      <LayerList plan={plan} />
      <div className="flex flex-wrap gap-2 border-t pt-3">
        <Button onClick={() => dispatch(removeCharacter(id))}>Remove {name}</Button>
      </div>
    </>
  );
}

/** Whether a change needs a body of its own. */
const isMade = (values: Partial<Prop>): boolean => 'size' in values || 'colour' in values;

interface Props {
  readonly prop: Prop;
  readonly onChange: (values: Partial<Prop>) => void;
}

function LookFields({ prop, onChange }: Props) {
  const { size, colour } = prop;
  return (
    <>
      {(['Width', 'Height', 'Depth'] as const).map((label, i) => (
        <NumberField
          key={label}
          label={label}
          unit="m"
          digits={2}
          step={0.01}
          least={PROP_SIZE.least}
          most={PROP_SIZE.most}
          value={defined(size[i])}
          onChange={(value) => {
            const [w, h, d] = size.map((v, k) => (k === i ? value : v)) as [number, number, number];
            onChange({ size: [w, h, d] });
          }}
        />
      ))}
      <label className="flex items-center justify-between gap-2 text-soft">
        Colour
        <input
          type="color"
          className="h-6 w-10 border bg-transparent"
          value={colour}
          onChange={(e) => onChange({ colour: e.currentTarget.value })}
        />
      </label>
    </>
  );
}

function PlaceGroup({ plan, prop, onChange }: Props & { readonly plan: CharacterPlan }) {
  const { plan: whole } = useAppSelector(selectPreviewPlan);
  const store = useStore<RootState>();
  const { character } = plan;
  const frame = store.getState().session.frame;
  const supports = supportsAt(whole, character.id, character.start ?? ORIGIN, frame).filter(
    ({ height }) => Math.abs(height - prop.raised) >= SAME_HEIGHT,
  );
  return (
    <Group title="Place">
      <PlaceFields
        character={character}
        moved={(start) => movedProp(whole, plan, start, store.getState().session.frame)}
      />
      <NumberField
        label="Above the floor"
        unit="m"
        digits={3}
        step={0.05}
        least={-100}
        most={100}
        value={prop.raised}
        onChange={(raised) => onChange({ raised })}
      />
      {supports.length > 0 && (
        <div className="flex flex-wrap gap-2">
          {supports.map(({ prop: below, height }) => (
            <Button key={below?.character.id ?? ''} onClick={() => onChange({ raised: height })}>
              Put on {below?.character.name ?? 'the floor'}
            </Button>
          ))}
        </div>
      )}
    </Group>
  );
}
