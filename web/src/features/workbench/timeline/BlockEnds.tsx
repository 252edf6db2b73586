import type { Edit } from '@warper/core';
import { commit, preview } from '../../../store/edits';
import { useAppDispatch } from '../../../store/store';
import { LaneHandle } from './LaneHandle';
import { useEndTargets } from './useBlockHands';

interface Span {
  readonly start: number;
  readonly end: number;
}

interface Props {
  readonly id: string;
  readonly name: string;
  /** Where it is shown, and where it is kept: a drag goes on from that, whatever it shows meanwhile. */
  readonly shown: Span;
  readonly kept: Span;
  /** The edit that brings an end to a frame. */
  readonly trim: (edge: keyof Span, frame: number) => Edit;
  readonly top: number;
  readonly ppf: number;
}

/** The ends of the shot, sound or line in hand, to be dragged. */
export function BlockEnds({ id, name, shown, kept, trim, top, ppf }: Props) {
  const dispatch = useAppDispatch();
  const targets = useEndTargets(id);
  return (['start', 'end'] as const).map((edge) => {
    const edit = (frames: number): Edit => trim(edge, kept[edge] + frames);
    const at = Math.round(shown[edge]);
    return (
      <LaneHandle
        key={edge}
        look="edge"
        targets={targets}
        label={`${edge === 'start' ? 'Start' : 'End'} of ${name}`}
        value={at}
        text={`frame ${at}`}
        left={shown[edge] * ppf}
        top={top}
        ppf={ppf}
        onPreview={(by) => void dispatch(preview(by && edit(by.frames)))}
        onChange={({ frames }) => void dispatch(commit(edit(frames)))}
      />
    );
  });
}
