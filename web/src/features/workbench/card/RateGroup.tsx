import type { Plan, Scene } from '@warper/core';
import { framesPerSecond, parseRate } from '@warper/core';
import { useState } from 'react';
import { Choice, Group } from '../../../ui/controls';
import { TextField } from '../../../ui/TextField';
import { commit } from '../../../store/edits';
import { useAppDispatch } from '../../../store/store';

/** The scene's rate, and what changing it keeps. */
export function RateGroup({ scene, plan }: { scene: Scene; plan: Plan }) {
  const dispatch = useAppDispatch();
  const [keep, setKeep] = useState<'seconds' | 'frames'>('seconds');
  const [wrong, setWrong] = useState<string | null>(null);
  const own = framesPerSecond(plan.rate);
  const others = [
    ...new Set(
      plan.characters
        .flatMap((c) => c.segments.map((s) => s.clip.rate))
        .filter((r) => Math.abs(r - own) > 0.01)
        .map((r) => Number(r.toFixed(3))),
    ),
  ];
  const set = (text: string): void => {
    const rate = /^\s*[\d.]+\s*$/.test(text) ? Number(text) : text.trim();
    try {
      parseRate(rate);
    } catch {
      return setWrong(`“${text}” is no rate: write frames a second, such as 24 or 30000/1001.`);
    }
    setWrong(null);
    dispatch(commit({ type: 'rate', rate, keep }));
  };
  return (
    <Group title="Rate">
      <TextField
        key={String(scene.rate)}
        label="Frames per second"
        value={String(scene.rate)}
        onChange={set}
      />
      <Choice
        label="When the rate changes, keep"
        value={keep}
        options={[
          ['seconds', 'Timing'],
          ['frames', 'Frame count'],
        ]}
        onChange={setKeep}
      />
      {wrong && (
        <p role="alert" className="text-bad">
          {wrong}
        </p>
      )}
      {others.length > 0 && (
        <p className="text-soft">
          Clips of {others.join(', ')} a second are shown at their true speed, between their samples where
          need be.
        </p>
      )}
    </Group>
  );
}
