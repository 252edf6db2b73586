import { useFrame } from '@react-three/fiber';
import type { CharacterPlan, Plan } from '@warper/core';
import { defined } from '@warper/core';
import { Ruler, X } from 'lucide-react';
import { useMemo, useRef } from 'react';
import { useStore } from 'react-redux';
import { BufferAttribute, BufferGeometry, LineBasicMaterial, LineSegments } from 'three';
import type { JointOf, Measured } from '../../../store/sessionState';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { jointPlace } from './framing';
import { useShownFrame } from '../useShownFrame';
import { themeColour } from '../../../parts/stage/colours';
import { Button } from '../../../ui/controls';
import { Select } from '../../../ui/Select';

const distance = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(...a.map((v, k) => v - defined(b[k])));

/** The line between the two joints that are measured. */
export function MeasureLine({ plan, measured }: { plan: Plan; measured: Measured }) {
  const store = useStore<RootState>();
  const line = useMemo(() => {
    const geometry = new BufferGeometry().setAttribute(
      'position',
      new BufferAttribute(new Float32Array(6), 3),
    );
    const object = new LineSegments(
      geometry,
      new LineBasicMaterial({ color: themeColour('--signal'), depthTest: false }),
    );
    object.frustumCulled = false;
    object.renderOrder = 20;
    return object;
  }, []);
  useFrame(() => {
    const frame = store.getState().session.frame;
    const ends = measured.map((j) => jointPlace(plan, j, frame));
    line.visible = ends.every((e) => e !== null);
    if (!line.visible) return;
    const position = line.geometry.getAttribute('position') as BufferAttribute;
    position.set(ends.flat() as number[]);
    position.needsUpdate = true;
  });
  return <primitive object={line} />;
}

/** The choice of two joints, and their distance at the playhead. */
export function MeasureBar({ plan }: { plan: Plan }) {
  const dispatch = useAppDispatch();
  const measured = useAppSelector((s) => s.session.measured);
  const set = (to: Measured | null): void => void dispatch(sessionActions.measuredBetween(to));
  if (!measured) {
    const first = plan.characters[0];
    return (
      <Button
        look="soft"
        className="flex items-center gap-1"
        disabled={!first}
        onClick={() => first && set([jointOf(first, 'Hand'), jointOf(plan.characters[1] ?? first, 'Foot')])}
      >
        <Ruler size={13} aria-hidden /> Measure
      </Button>
    );
  }
  return (
    <div role="group" aria-label="Distance of two joints" className="flex items-center gap-1.5">
      <JointChoice plan={plan} label="From" value={measured[0]} onChange={(j) => set([j, measured[1]])} />
      <span className="text-soft">to</span>
      <JointChoice plan={plan} label="To" value={measured[1]} onChange={(j) => set([measured[0], j])} />
      <Distance plan={plan} measured={measured} />
      <Button
        look="soft"
        aria-label="Stop measuring"

        onClick={() => set(null)}
      >
        <X size={13} aria-hidden />
      </Button>
    </div>
  );
}

/** How far apart two joints are at the playhead. */
function Distance({ plan, measured }: { plan: Plan; measured: Measured }) {
  const output = useRef<HTMLOutputElement>(null);
  useShownFrame((frame) => {
    const [a, b] = measured.map((j) => jointPlace(plan, j, frame));
    defined(output.current).textContent = a && b ? `${(distance(a, b) * 100).toFixed(1)} cm` : 'nowhere';
  });
  return <output ref={output} className="font-semibold" />;
}

/** A character's joint whose role ends in a word, else its root bone. */
function jointOf({ character, skeleton }: CharacterPlan, role: string): JointOf {
  const index = skeleton.roles.findIndex((r) => r?.endsWith(role));
  return { character: character.id, joint: defined(skeleton.names[index >= 0 ? index : skeleton.rootBone]) };
}

interface ChoiceProps {
  readonly plan: Plan;
  readonly label: string;
  readonly value: JointOf;
  readonly onChange: (joint: JointOf) => void;
}

function JointChoice({ plan, label, value, onChange }: ChoiceProps) {
  return (
    <Select
      label={`${label} joint`}
      className="max-w-40"
      value={`${value.character}|${value.joint}`}
      options={plan.characters.flatMap(({ character, skeleton }) =>
        skeleton.names.map((joint) => [`${character.id}|${joint}`, `${character.name}: ${joint}`] as const),
      )}
      onChange={(key) => {
        const [character, ...joint] = key.split('|');
        onChange({ character: defined(character), joint: joint.join('|') });
      }}
    />
  );
}
