import type { Edit, SeamMeasures, Segment, Thresholds } from '@warper/core';
import { gradeOf } from '@warper/core';
import type { KeyboardEvent } from 'react';
import { preview } from '../../../store/edits';
import { useAppDispatch } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { GradeMark, SEAM_MEASURES } from '../../../ui/grade';
import { MeasureName } from '../../../ui/MeasureName';
import { SEAM_TEXTS } from '../../../ui/measures';

/** Another way to join the two, and how good it would be. */
export interface OtherWay {
  readonly name: string;
  readonly edit: Edit;
  readonly measures: SeamMeasures;
}

/** What shows a seam without its fit. */
export const withoutFit = (segment: Segment): Edit => ({
  type: 'seam',
  segment: segment.id,
  values: { fit: 'free' },
  join: segment.seam.kind === 'settle' ? { kind: 'cut' } : undefined,
});

/** Held down, it shows the seam in the view as it would be. */
function Hold({ name, edit }: Pick<OtherWay, 'name' | 'edit'>) {
  const dispatch = useAppDispatch();
  const show = (): void => void dispatch(preview(edit));
  const hide = (): void => void dispatch(preview(null));
  const isKey = (e: KeyboardEvent): boolean => e.key === ' ' || e.key === 'Enter';
  return (
    <Button
      look="bare"
      className="border-b border-dotted border-soft hover:border-ink"
      title="Hold down to see it in the view"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        show();
      }}
      onPointerUp={hide}
      onPointerCancel={hide}
      onBlur={hide}
      onKeyDown={(e) => isKey(e) && !e.repeat && show()}
      onKeyUp={(e) => isKey(e) && hide()}
    >
      {name}
    </Button>
  );
}

interface Props {
  /** The other ways; the first are those that are only compared with. */
  readonly others: readonly OtherWay[];
  readonly now: SeamMeasures;
  readonly thresholds: Thresholds;
}

/** What is measured now, beside what it would be otherwise. */
export function SeamMeasureTable({ others, now, thresholds }: Props) {
  return (
    <table className="mb-2.5 w-full border-t text-right">
      <caption className="sr-only">Measures of the seam, now and joined otherwise</caption>
      <thead className="text-note text-soft">
        <tr className="align-bottom">
          <th className="pt-2 text-left font-normal">
            <span className="sr-only">Measure</span>
          </th>
          {others.map(({ name, edit }) => (
            <th key={name} className="pt-2 pl-1.5 font-normal">
              <Hold name={name} edit={edit} />
            </th>
          ))}
          <th className="pt-2 font-normal text-ink">Now</th>
        </tr>
      </thead>
      <tbody>
        {SEAM_MEASURES.map(([, key, show]) => (
          <tr key={key}>
            <th className="text-left font-normal text-soft">
              <MeasureName text={SEAM_TEXTS[key]} />
            </th>
            {others.map(({ name, measures }) => (
              <td key={name} className="pl-1.5 whitespace-nowrap">
                {show(measures[key])}
              </td>
            ))}
            <td className="pl-1.5 whitespace-nowrap">
              <GradeMark grade={gradeOf(now[key], thresholds[key])} /> {show(now[key])}
            </td>
          </tr>
        ))}
        <tr>
          <th className="text-left font-normal text-soft">Speed</th>
          <td colSpan={others.length + 1}>
            {now.speedBefore.toFixed(2)} → {now.speedAfter.toFixed(2)} m/s
          </td>
        </tr>
      </tbody>
    </table>
  );
}
