import { useFrame, useThree } from '@react-three/fiber';
import type { CharacterPlan } from '@warper/core';
import { evaluate, makePoseBuffer } from '@warper/core';
import { memo, useEffect, useMemo } from 'react';
import { useStore } from 'react-redux';
import type { RootState } from '../../../store/store';
import { useAppSelector } from '../../../store/store';
import { boneFigure } from '../../../parts/stage/boneFigure';
import { hueColour } from '../../../parts/stage/colours';

/**
 * Ghosts of a character: before and after the playhead as many as are asked for, and while one of its seams is in hand
 * the poses on both sides of it.
 */
export const Ghosts = memo(function Ghosts({ plan }: { plan: CharacterPlan }) {
  const { count, spacing } = useAppSelector((s) => s.session.ghosts);
  const seam = useAppSelector((s) =>
    s.session.selection.kind === 'seam' ? plan.segments.find((p) => isSelected(s, p.id)) : undefined,
  );
  const offsets = useMemo(
    () => Array.from({ length: count }, (_, i) => [-(i + 1) * spacing, (i + 1) * spacing]).flat(),
    [count, spacing],
  );
  if (plan.character.shown === 'nothing' || plan.segments.length === 0) return null;
  return (
    <>
      {offsets.map((by) => (
        <Ghost key={by} plan={plan} by={by} opacity={0.3 / Math.sqrt(Math.abs(by) / spacing)} />
      ))}
      {seam && (
        <>
          <Ghost plan={plan} at={seam.start - 1} opacity={0.3} />
          <Ghost plan={plan} at={seam.start + Math.max(1, seam.overlap)} opacity={0.3} />
        </>
      )}
    </>
  );
});

const isSelected = (state: RootState, id: string): boolean =>
  state.session.selection.kind === 'seam' && state.session.selection.id === id;

interface GhostProps {
  readonly plan: CharacterPlan;
  /** Frames from the playhead, or the frame itself. */
  readonly by?: number;
  readonly at?: number;
  readonly opacity: number;
  /** That of the character without. */
  readonly hue?: number;
}

export function Ghost({ plan, by, at, opacity, hue = plan.character.hue }: GhostProps) {
  const store = useStore<RootState>();
  const invalidate = useThree((s) => s.invalidate);
  const figure = useMemo(
    () => boneFigure(plan.skeleton, hueColour(hue), { opacity }),
    [plan.skeleton, hue, opacity],
  );
  const buffer = useMemo(() => makePoseBuffer(plan.skeleton), [plan.skeleton]);
  useEffect(() => {
    invalidate();
    return () => {
      figure.dispose();
      invalidate();
    };
  }, [figure, invalidate]);
  useFrame(() => {
    const frame = at ?? store.getState().session.frame + (by ?? 0);
    figure.object.visible = frame >= plan.start && frame < plan.end;
    if (!figure.object.visible) return;
    figure.pose(evaluate(plan, frame, buffer));
  });
  return <primitive object={figure.object} />;
}
