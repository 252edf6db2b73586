import type { Join, SeamMeasures, Segment, Thresholds } from '@warper/core';
import { gradeOf } from '@warper/core';
import type { KeyboardEvent, ReactNode } from 'react';
import { preview } from '../../../store/edits';
import { useAppDispatch } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { GradeMark, SEAM_MEASURES } from '../../../ui/grade';
import { MeasureName } from '../../../ui/MeasureName';
import { SEAM_TEXTS } from '../../../ui/measures';

interface MeasureProps {
  readonly plain: SeamMeasures;
  readonly now: SeamMeasures;
  readonly thresholds: Thresholds;
  /** What shows the seam without its fit. */
  readonly hold: ReactNode;
}

/** Held down, it shows the seam in the view as it would be without the fit. */
export function WithoutFit({ segment }: { readonly segment: Segment }) {
  const dispatch = useAppDispatch();
  const show = (): void => {
    const join: Join | undefined = segment.seam.kind === 'settle' ? { kind: 'cut' } : undefined;
    dispatch(preview({ type: 'seam', segment: segment.id, values: { fit: 'free' }, join }));
  };
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
      Without fit
    </Button>
  );
}

/** What is measured without the fit, and now. */
export function SeamMeasureTable({ plain, now, thresholds, hold }: MeasureProps) {
  return (
    <table className="mb-2.5 w-full border-t text-right">
      <caption className="sr-only">Measures of the seam, without a fit and now</caption>
      <thead className="text-soft">
        <tr>
          <th className="pt-2 text-left font-normal">Measure</th>
          <th className="pt-2 font-normal">{hold}</th>
          <th className="pt-2 font-normal">Now</th>
        </tr>
      </thead>
      <tbody>
        {SEAM_MEASURES.map(([, key, show]) => (
          <tr key={key}>
            <th className="text-left font-normal text-soft">
              <MeasureName text={SEAM_TEXTS[key]} />
            </th>
            <td>{show(plain[key])}</td>
            <td>
              <GradeMark grade={gradeOf(now[key], thresholds[key])} /> {show(now[key])}
            </td>
          </tr>
        ))}
        <tr>
          <th className="text-left font-normal text-soft">Speed</th>
          <td colSpan={2}>
            {now.speedBefore.toFixed(2)} → {now.speedAfter.toFixed(2)} m/s
          </td>
        </tr>
      </tbody>
    </table>
  );
}
