import type { Character, CharacterPlan, CharacterValues } from '@warper/core';
import { LARGE_CORRECTION_CM, defined, framesPerSecond, measureHolds, restHeight } from '@warper/core';
import { useMemo } from 'react';
import { Button, Check, Choice, Group } from '../../../ui/controls';
import { TextField } from '../../../ui/TextField';
import { DialFields } from '../../../ui/DialFields';
import { NumberField } from '../../../ui/NumberField';
import { commit, removeCharacter } from '../../../store/edits';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { LookGroup } from './LookGroup';
import { LayerList } from './LayerList';
import { ORIGIN, PlaceFields } from './PlaceFields';
import { PushGroup } from './PushGroup';
import { TetherList } from './TetherList';
import { Select } from '../../../ui/Select';

/** What holding the feet costs: how far the furthest one is moved, and what no leg reaches. */
function HoldSummary({ plan }: { plan: CharacterPlan }) {
  const holds = useMemo(() => measureHolds(plan), [plan]);
  if (holds.length === 0) return null;
  const held = holds.filter((h) => h.held > 0);
  const letGo = holds.filter((h) => h.held < 1);
  const furthest = held.reduce((a, b) => (b.correctionCm > a.correctionCm ? b : a), defined(holds[0]));
  const left = Math.max(0, ...held.map((h) => h.leftCm));
  const large = furthest.correctionCm > LARGE_CORRECTION_CM;
  return (
    <>
      <p className={large || left > WORTH_SAYING_CM ? 'text-watch' : 'text-soft'}>
        Held {held.length} times; at most {furthest.joint} by {furthest.correctionCm.toFixed(1)} cm in frames{' '}
        {Math.ceil(furthest.start)} to {Math.ceil(furthest.end)}
        {left > WORTH_SAYING_CM ? `, and ${left.toFixed(1)} cm are out of reach` : ''}.
      </p>
      {letGo[0] && (
        <p className="text-watch">
          Let go {letGo.length} times, first {letGo[0].joint} at frame {Math.ceil(letGo[0].start)}: it would
          have to be moved by {letGo[0].correctionCm.toFixed(1)} cm. Make a step at the seam there.
        </p>
      )}
    </>
  );
}

/** Centimetres that a foot may stay from its place without a word about it. */
const WORTH_SAYING_CM = 0.1;

const SHOWN: readonly (readonly [Character['shown'], string])[] = [
  ['mesh', 'Mesh'],
  ['bones', 'Bones'],
  ['both', 'Mesh and bones'],
  ['nothing', 'nothing'],
];

/** The eight hues of characters. */
function Hues({ hue, onChange }: { hue: number; onChange: (hue: number) => void }) {
  return (
    <div role="radiogroup" aria-label="Hue" className="flex items-center justify-between gap-2">
      <span className="text-soft">Hue</span>
      <span className="flex gap-1">
        {Array.from({ length: 8 }, (_, h) => (
          <Button
            look="bare"
            key={h}
            role="radio"
            aria-checked={h === hue}
            aria-label={`hue ${h + 1}`}
            className={`size-4 rounded-full ${h === hue ? 'outline-2 outline-offset-1 outline-ink' : ''}`}
            style={{ background: `var(--hue-${h})` }}
            onClick={() => onChange(h)}
          />
        ))}
      </span>
    </div>
  );
}

/** Starts a character where another one does. */
function CopyPlace({ plan }: { plan: CharacterPlan }) {
  const dispatch = useAppDispatch();
  const characters = useAppSelector((s) => s.scene.document?.characters);
  const others = Object.values(characters ?? {}).filter((c) => c.id !== plan.character.id && c.start);
  if (others.length === 0) return null;
  return (
    <div className="-mt-1 pb-2.5">
      <Select
        label="Copy placement from"
        className="w-full text-left text-soft"
        value=""
        placeholder="Copy placement from..."
        options={others.map((c) => [c.id, c.name] as const)}
        onChange={(id) => {
          const from = characters?.[id]?.start;
          if (from) dispatch(commit({ type: 'start character', character: plan.character.id, start: from }));
        }}
      />
    </div>
  );
}

/** A character: where it starts, and what it is. */
export function CharacterCard({ plan }: { plan: CharacterPlan }) {
  const dispatch = useAppDispatch();
  const { id, name } = plan.character;
  const change = (values: CharacterValues): void =>
    void dispatch(commit({ type: 'change character', character: id, values }));
  return (
    <>
      <p className="text-soft">Character</p>
      <h2 className="mb-2 text-title font-bold">{name}</h2>
      <WhoGroup character={plan.character} change={change} />
      <StartGroup character={plan.character} />
      <CopyPlace plan={plan} />
      <Group title="Before the first segment">
        <NumberField
          label="Ease in from rest pose"
          unit="f"
          least={0}
          value={plan.character.leadIn}
          framesPerSecond={framesPerSecond(plan.rate)}
          onChange={(frames) => dispatch(commit({ type: 'lead-in', character: id, frames }))}
        />
      </Group>
      <Group title="Feet">
        <Check
          label="Lock planted feet"
          checked={plan.character.footLock}
          onChange={(on) => dispatch(commit({ type: 'foot-lock', character: id, on }))}
        />
        <HoldSummary plan={plan} />
      </Group>
      <Group title="Posture">
        <DialFields dials={plan.character.dials} onChange={(dials) => change({ dials })} />
      </Group>
      <LookGroup look={plan.character.look} plan={plan} onChange={(look) => change({ look })} />
      <TetherList id={id} />
      <PushGroup plan={plan} />
      <LayerList plan={plan} />
      <Group title="Body">
        <p className="text-soft">
          {plan.skeleton.names.length} joints, {restHeight(plan.skeleton).toFixed(2)} m between its joints
        </p>
      </Group>
      <div className="border-t pt-3">
        <Button onClick={() => dispatch(removeCharacter(id))}>Remove {name}</Button>
      </div>
    </>
  );
}

/** What it is called, how it is drawn, and how large it is. */
function WhoGroup(props: { character: Character; change: (values: CharacterValues) => void }) {
  const { character, change } = props;
  return (
    <Group title="Character">
      <TextField label="Name" value={character.name} onChange={(to) => change({ name: to })} />
      <Choice label="Shown" value={character.shown} options={SHOWN} onChange={(shown) => change({ shown })} />
      <Hues hue={character.hue} onChange={(hue) => change({ hue })} />
      <NumberField
        label="Size"
        unit="×"
        digits={3}
        step={0.05}
        least={0.01}
        most={100}
        value={character.size}
        onChange={(size) => change({ size })}
      />
    </Group>
  );
}

/** Where its first pose stands. */
function StartGroup({ character }: { readonly character: Character }) {
  const dispatch = useAppDispatch();
  const { id, start } = character;
  return (
    <Group title="Starts at">
      <Check
        label="Start as authored"
        checked={start === null}
        onChange={(authored) =>
          dispatch(commit({ type: 'start character', character: id, start: authored ? null : ORIGIN }))
        }
      />
      <PlaceFields character={character} disabled={!start} />
    </Group>
  );
}
