import type { Scene, SoundLane } from '@warper/core';
import { defined } from '@warper/core';
import { Plus, Volume2, VolumeX } from 'lucide-react';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { commandOf } from '../commands/commands';
import { LINE_ROW, SOUND_ROW } from './geometry';
import { hasLines } from './SoundLanes';

/** The heads of the sound lanes, and of that of the lines. */
export function SoundLaneHeads({ scene, top }: { readonly scene: Scene; readonly top: number }) {
  const dispatch = useAppDispatch();
  const lanes = scene.soundLaneOrder.map((id) => defined(scene.soundLanes[id]));
  const count = Object.keys(scene.lines).length;
  return (
    <>
      {lanes.map((lane, i) => (
        <Head key={lane.id} lane={lane} scene={scene} top={top + i * SOUND_ROW} />
      ))}
      {hasLines(scene) && (
        <div
          className="absolute inset-x-0 flex items-center border-b bg-paper pl-4"
          style={{ top: top + lanes.length * SOUND_ROW, height: LINE_ROW }}
        >
          <span className="flex-1">
            <span className="font-semibold">Lines</span> <span className="text-small text-soft">{count}</span>
          </span>
          <Button
            look="soft"
            className="p-1"
            aria-label="Line at the playhead"
            title="Line at the playhead (L)"
            onClick={() => dispatch(commandOf('line').run)}
          >
            <Plus size={14} aria-hidden />
          </Button>
        </div>
      )}
    </>
  );
}

function Head({
  lane,
  scene,
  top,
}: {
  readonly lane: SoundLane;
  readonly scene: Scene;
  readonly top: number;
}) {
  const dispatch = useAppDispatch();
  const selected = useAppSelector(
    ({ session: { selection } }) => selection.kind === 'sound lane' && selection.id === lane.id,
  );
  const { name, muted, steps } = lane;
  const Sign = muted ? VolumeX : Volume2;
  const whose = steps && scene.characters[steps.character]?.name;
  return (
    <div className="absolute inset-x-0 flex items-start border-b bg-paper" style={{ top, height: SOUND_ROW }}>
      <Button
        look="bare"
        aria-pressed={selected}
        className={`min-w-0 flex-1 py-1 pl-4 text-left ${selected ? 'underline decoration-ink underline-offset-4' : ''}`}
        onClick={() => dispatch(sessionActions.selected({ kind: 'sound lane', id: lane.id }))}
      >
        <span className="block truncate font-semibold">{name}</span>
        <span className="block truncate text-small text-soft">
          {whose ? `on ${steps.surface}` : 'sounds'}
          {lane.gain !== 0 ? ` · ${lane.gain > 0 ? '+' : '−'}${Math.abs(lane.gain)} dB` : ''}
        </span>
      </Button>
      <Button
        look="soft"
        className="p-1"
        aria-pressed={muted}
        aria-label={`Mute ${name}`}
        title={muted ? 'Muted' : 'Heard'}
        onClick={() => dispatch(commit({ type: 'sound lane', lane: { ...lane, muted: !muted } }))}
      >
        <Sign size={14} aria-hidden />
      </Button>
    </div>
  );
}
