import type { LayerLane, Scene, Segment } from '@warper/core';
import { PLAIN_SEGMENT, defined } from '@warper/core';
import { useLiveQuery } from 'dexie-react-hooks';
import { useState } from 'react';
import { Button, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { openSources } from '../../../data/pageLibrary';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { freshId } from '../../../data/freshId';
import { keptClips } from '../../../data/keptClips';

interface Props {
  readonly layer: LayerLane;
  readonly scene: Scene;
  readonly framesPerSecond: number;
}

/** The clips on a layer, each with its place and fades, and a way to add one at the playhead. */
export function LayerClips({ layer, scene, framesPerSecond }: Props) {
  return (
    <Group title="Clips">
      {layer.segments.map((id) => {
        const segment = scene.segments[id];
        return segment ? <LayerClip key={id} segment={segment} framesPerSecond={framesPerSecond} /> : null;
      })}
      <AddClip layer={layer} />
    </Group>
  );
}

function LayerClip({ segment, framesPerSecond }: { segment: Segment; framesPerSecond: number }) {
  const dispatch = useAppDispatch();
  const { id, fade } = segment;
  const change = (values: Partial<Pick<Segment, 'fade' | 'repeat' | 'loop'>>): void =>
    void dispatch(commit({ type: 'change', segment: id, values }));
  return (
    <div className="mb-1 border-l-2 pl-2">
      <div className="flex justify-between">
        <span className="truncate font-semibold">{segment.name}</span>
        <Button
          look="soft"
          className="text-note"
          onClick={() => dispatch(commit({ type: 'remove', segment: id, close: false }))}
        >
          Remove
        </Button>
      </div>
      <NumberField
        label="Start"
        unit="f"
        least={0}
        value={segment.start}
        framesPerSecond={framesPerSecond}
        onChange={(start) => dispatch(commit({ type: 'move', segment: id, start }))}
      />
      <NumberField
        label="Repeats"
        unit="×"
        digits={2}
        least={0.05}
        value={segment.repeat}
        onChange={(repeat) => change({ repeat, loop: segment.loop || repeat !== 1 })}
      />
      <NumberField
        label="Fade in"
        unit="f"
        least={0}
        value={fade.in}
        framesPerSecond={framesPerSecond}
        onChange={(v) => change({ fade: { ...fade, in: Math.round(v) } })}
      />
      <NumberField
        label="Fade out"
        unit="f"
        least={0}
        value={fade.out}
        framesPerSecond={framesPerSecond}
        onChange={(v) => change({ fade: { ...fade, out: Math.round(v) } })}
      />
    </div>
  );
}

/** Frames in which an added clip comes and goes. */
const USUAL_FADE = 10;

function AddClip({ layer }: { layer: LayerLane }) {
  const dispatch = useAppDispatch();
  const clips = useLiveQuery(keptClips, []);
  const frame = useAppSelector((s) => s.session.frame);
  const [chosen, setChosen] = useState('');
  if (!clips || clips.length === 0) return <p className="text-soft">Import a clip first.</p>;
  const clip = clips.find((c) => c.id === chosen) ?? defined(clips[0]);
  const add = async (): Promise<void> => {
    await openSources([clip.source]);
    const segment: Segment = {
      ...PLAIN_SEGMENT,
      id: freshId('g'),
      name: clip.name,
      clip: clip.id,
      out: clip.facts.frames,
      fade: { in: USUAL_FADE, out: USUAL_FADE },
    };
    if (dispatch(commit({ type: 'place', lane: layer.id, segment, at: frame })))
      dispatch(sessionActions.announced(`${clip.name} added to ${layer.name}`));
  };
  return (
    <>
      <Choice
        label="Clip"
        value={clip.id}
        options={clips.map((c) => [c.id, c.name] as const)}
        onChange={setChosen}
      />
      <div>
        <Button onClick={() => void add()}>Add at the playhead</Button>
      </div>
    </>
  );
}
