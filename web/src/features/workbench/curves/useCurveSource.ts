import { useMemo, useState } from 'react';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { useAppSelector } from '../../../store/store';
import type { CurveSource } from './curveSource';
import type { KeptCurves } from './layerSource';
import { layerSource } from './layerSource';
import { segmentSource } from './segmentSource';

/** The curves of what is in hand, as a drag shows it; null where it has none. */
export function useCurveSource(): { readonly source: CurveSource; readonly id: string } | null {
  const selection = useAppSelector((s) => s.session.selection);
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const [curves] = useState<KeptCurves>(() => new Map());
  const layerId = useMemo(() => {
    if (selection.kind === 'layer') return selection.id;
    if (selection.kind !== 'segment') return null;
    const lane = Object.values(scene.lanes).find((l) => l.segments.includes(selection.id));
    return lane?.kind === 'layer' ? lane.id : null;
  }, [selection, scene.lanes]);
  const layer = layerId === null ? undefined : scene.lanes[layerId];
  return useMemo(() => {
    if (layer?.kind === 'layer') return { source: layerSource(layer, curves), id: layer.id };
    if (selection.kind !== 'segment' && selection.kind !== 'seam') return null;
    const segment = plan.characters.flatMap((c) => c.segments).find((s) => s.id === selection.id);
    return segment ? { source: segmentSource(segment), id: segment.id } : null;
  }, [layer, curves, plan, selection]);
}
