import type { Plan, Scene } from '@warper/core';
import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { library } from '../../data/pageLibrary';
import { undo } from '../../store/edits';
import { selectPreviewPlan } from '../../store/selectors';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { legsRemark } from './legsRemark';

/** The remarks on a scene's segments whose clips were recorded on other legs, by segment. */
function remarksOf(plan: Plan, segments: Scene['segments']): Map<string, string> {
  const remarks = new Map<string, string>();
  for (const c of plan.characters)
    for (const { id } of c.segments) {
      const clip = library.clip(segments[id]?.clip ?? '');
      const remark = clip && legsRemark(clip, c);
      if (remark) remarks.set(id, remark);
    }
  return remarks;
}

/** Says when an edit has put a clip onto a character with another number of legs, and offers to take it back. */
export function useLegsRemark(scene: string): void {
  const dispatch = useAppDispatch();
  const { plan } = useAppSelector(selectPreviewPlan);
  const segments = useAppSelector((s) => s.scene.document?.segments);
  const dragging = useAppSelector((s) => s.scene.draft !== null);
  const before = useRef<{ scene: string; segments: ReadonlySet<string> } | null>(null);
  useEffect(() => {
    if (dragging || !segments) return;
    const remarks = remarksOf(plan, segments);
    const seen = before.current?.scene === scene ? before.current.segments : null;
    const fresh = seen && [...remarks].find(([id]) => !seen.has(id));
    if (fresh)
      toast.warning(fresh[1], {
        description: 'Its bones are matched by name; the legs may bend where they should not.',
        action: { label: 'Take it back', onClick: () => dispatch(undo()) },
      });
    before.current = { scene, segments: new Set(remarks.keys()) };
  }, [plan, segments, scene, dragging, dispatch]);
}
