import type { CharacterPlan } from '@warper/core';
import { MAX_LOWERING, framesPerSecond, parseRate } from '@warper/core';
import type { BakeSettings } from '@warper/formats';
import { commit } from '../../store/edits';
import { useAppDispatch } from '../../store/store';
import { Check, Choice, Group } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';

interface Props {
  readonly settings: BakeSettings;
  readonly set: (values: Partial<BakeSettings>) => void;
  readonly cast: readonly CharacterPlan[];
  /** Frames a second of the scene. */
  readonly sceneRate: number;
}

type Travel = 'recorded' | 'in place' | 'in place, facing';

const travelOf = ({ travel, keepFacing }: BakeSettings): Travel =>
  travel === 'recorded' ? 'recorded' : keepFacing ? 'in place, facing' : 'in place';

/** What is done with the motion on its way into the file. */
export function MotionGroup({ settings, set, cast, sceneRate }: Props) {
  return (
    <Group title="Motion">
      <NumberField
        label="Frames per second"
        digits={3}
        value={settings.rate ?? sceneRate}
        least={1}
        most={1000}
        onChange={(value) => {
          const rate = framesPerSecond(parseRate(value));
          set({ rate: rate === sceneRate ? null : rate });
        }}
      />
      <Choice<Travel>
        label="Travel"
        value={travelOf(settings)}
        options={[
          ['recorded', 'As in the scene'],
          ['in place', 'In place'],
          ['in place, facing', 'In place, facing kept'],
        ]}
        onChange={(travel) =>
          set({
            travel: travel === 'recorded' ? 'recorded' : 'in place',
            keepFacing: travel === 'in place, facing',
          })
        }
      />
      <Check
        label="Begin at the origin, facing +Z"
        checked={settings.fromOrigin}
        onChange={(fromOrigin) => set({ fromOrigin })}
      />
      <NumberField
        label="Lead-in from the rest pose"
        unit="f"
        value={settings.leadIn}
        least={0}
        most={1000}
        framesPerSecond={sceneRate}
        onChange={(frames) => set({ leadIn: Math.round(frames) })}
      />
      <Choice
        label="End of a loop"
        value={settings.loop}
        options={[
          ['as it is', 'As it is'],
          ['drop doubled', 'Leave out a doubled last frame'],
          ['close', 'Close the gap'],
        ]}
        onChange={(loop) => set({ loop })}
      />
      <FootLock cast={cast} />
    </Group>
  );
}

/** The lock of planted feet, which is set on the characters of the scene. */
function FootLock({ cast }: Pick<Props, 'cast'>) {
  const dispatch = useAppDispatch();
  const locked = cast.filter((c) => c.character.footLock).length;
  if (cast.length === 0) return null;
  return (
    <>
      <Check
        label="Lock planted feet"
        checked={locked === cast.length ? true : locked === 0 ? false : null}
        onChange={(on) => {
          for (const { character } of cast)
            if (character.footLock !== on)
              dispatch(commit({ type: 'foot-lock', character: character.id, on }));
        }}
      />
      {locked > 0 && (
        <p className="text-note text-soft">
          For feet to reach, the hips are lowered by up to {MAX_LOWERING * 100} cm; what is further away
          slides.
        </p>
      )}
    </>
  );
}
