import type { Plan } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { selectPreviewPlan } from '../../store/selectors';
import { useAppSelector } from '../../store/store';

/** The rates of the clips that are performed, and of the scene, samples a second. */
export function ratesOf(plan: Plan): number[] {
  const rates = plan.characters.flatMap((c) =>
    [c, ...c.layers].flatMap(({ segments }) => segments.map((s) => s.clip.rate)),
  );
  return [...new Set([framesPerSecond(plan.rate), ...rates].map((r) => Number(r.toFixed(3))))];
}

/** Remarks once that an edit has brought clips of another rate into a scene that had one. */
export function useRateRemark(scene: string): void {
  const { plan } = useAppSelector(selectPreviewPlan);
  const dragging = useAppSelector((s) => s.scene.draft !== null);
  const before = useRef<{ scene: string; mixed: boolean } | null>(null);
  useEffect(() => {
    // A drag in hand is not decided yet, and an empty scene has nothing to be said about.
    if (dragging || plan.characters.length === 0) return;
    const rates = ratesOf(plan);
    const mixed = rates.length > 1;
    const cached = before.current?.scene === scene ? before.current : null;
    if (cached && mixed && !cached.mixed)
      toast.info(`Rates are mixed now: ${rates.join(', ')} a second.`, {
        description: 'Every clip keeps its true speed; poses between its samples are made as needed.',
      });
    before.current = { scene, mixed: mixed || (cached?.mixed ?? false) };
  }, [plan, scene, dragging]);
}
