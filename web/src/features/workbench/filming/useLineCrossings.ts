import type { LineCrossing, Plan } from '@warper/core';
import { lineCrossings } from '@warper/core';
import { useMemo, useState } from 'react';
import { selectPreviewPlan } from '../../../store/selectors';
import { useAppSelector } from '../../../store/store';

const known = new WeakMap<Plan, readonly LineCrossing[]>();

/** The cuts across the line between two; while a drag lasts those from before, since cameras that follow are computed for the whole scene. */
export function useLineCrossings(): readonly LineCrossing[] {
  const { plan: latest } = useAppSelector(selectPreviewPlan);
  const dragging = useAppSelector((s) => s.scene.draft !== null);
  const [plan, setPlan] = useState(latest);
  if (plan !== latest && !dragging) setPlan(latest);
  return useMemo(() => {
    const crossings = known.get(plan) ?? lineCrossings(plan);
    known.set(plan, crossings);
    return crossings;
  }, [plan]);
}
