import type { Edit, Library, Scene, SeamMap, SeamMeasures } from '@warper/core';
import { InputError, chooseJoin, plainJoin, seamMap } from '@warper/core';

/** A way in which two segments could be joined, and how good it is. */
export interface SeamWay {
  readonly edit: Edit;
  readonly measures: SeamMeasures;
}

/** What is to be known of a seam before it is changed. */
export interface SeamStudy {
  /** The segment that it stands before. */
  readonly segment: string;
  /** The moments that could meet; null where nothing can be moved. */
  readonly map: SeamMap | null;
  /** The seam as a plain crossfade, and as it would be chosen; null where nothing is to be chosen. */
  readonly plain: SeamWay | null;
  readonly automatic: SeamWay | null;
}

/** Pairs of moments that are listed. */
const LISTED = 5;

/**
 * Compares the moments around the seam before a segment, and measures it plain and automatic; yields the finished share.
 *
 * @throws InputError `no-seam` where the segment is gone
 */
export function* studySeam(scene: Scene, segment: string, library: Library): Generator<number, SeamStudy> {
  const current = scene.segments[segment];
  if (!current)
    throw new InputError('no-seam', 'The seam is no longer there.', { hint: 'Choose another one.' });
  const limits = current.seam.limits ?? scene.choice;
  const map = seamMap(scene, segment, library, limits, LISTED);
  yield 0.3;
  const plain = plainJoin(scene, segment, library);
  const choice = plain && chooseJoin(scene, segment, library, limits);
  return {
    segment,
    map,
    plain: choice && { edit: plain, measures: choice.before },
    automatic: choice && { edit: choice.edit, measures: choice.measures },
  };
}
