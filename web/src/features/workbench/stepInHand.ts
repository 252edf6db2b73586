import type { Stepping } from '@warper/core';
import { createSelector } from '@reduxjs/toolkit';
import type { RootState } from '../../store/store';

/** The selected seam and its join, where it is a made step; as it is in the document. */
export const stepInHand = createSelector(
  [(s: RootState) => s.session.selection, (s: RootState) => s.scene.document?.segments],
  (selection, segments): { readonly segment: string; readonly join: Stepping } | null => {
    if (selection.kind !== 'seam') return null;
    const seam = segments?.[selection.id]?.seam;
    if (seam?.kind !== 'step') return null;
    const { kind, footfalls, landings } = seam;
    return { segment: selection.id, join: { kind, footfalls, landings } };
  },
);
