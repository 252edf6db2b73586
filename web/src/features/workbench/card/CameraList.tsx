import type { Plan, Scene } from '@warper/core';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import { Button, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { commandOf } from '../commands/commands';

/** Pictures by their width to their height (common practice). */
const ASPECTS = [
  ['16:9', 16 / 9],
  ['1.85:1', 1.85],
  ['2.39:1', 2.39],
  ['4:3', 4 / 3],
  ['1:1', 1],
  ['9:16', 9 / 16],
] as const;

const OWN = 'own';

/** The cameras of a scene, and the picture that they make. */
export function CameraList({ scene, plan }: { readonly scene: Scene; readonly plan: Plan }) {
  const dispatch = useAppDispatch();
  const { cameras } = plan.filming;
  const named = ASPECTS.find(([, aspect]) => Math.abs(aspect - scene.aspect) < 1e-4)?.[0] ?? OWN;
  const set = (aspect: number): void => void dispatch(commit({ type: 'aspect', aspect }));
  return (
    <Group title="Cameras">
      <ul>
        {cameras.map((camera) => (
          <li key={camera.id}>
            <Button
              look="row"

              onClick={() => dispatch(sessionActions.selected({ kind: 'camera', id: camera.id }))}
            >
              <span className="truncate">{camera.name}</span>
              <span className="text-soft">
                {shotCount(plan.filming.shots.filter((s) => s.camera === camera.id).length)}
              </span>
            </Button>
          </li>
        ))}
      </ul>
      {cameras.length > 0 && (
        <Choice
          label="Picture"
          value={named}
          options={[...ASPECTS.map(([name]) => [name, name] as const), [OWN, 'another aspect']]}
          onChange={(name) => set(ASPECTS.find(([n]) => n === name)?.[1] ?? 2)}
        />
      )}
      {cameras.length > 0 && named === OWN && (
        <NumberField
          label="Width by height"
          digits={3}
          step={0.05}
          least={0.2}
          most={5}
          value={scene.aspect}
          onChange={set}
        />
      )}
      <div>
        <Button onClick={() => dispatch(commandOf('add camera').run)}>Add from the view</Button>
      </div>
    </Group>
  );
}

const shotCount = (count: number): string =>
  count === 0 ? 'no shot' : count === 1 ? '1 shot' : `${count} shots`;
