import { defined } from '@warper/core';
import { Plus, X } from 'lucide-react';
import { NumberField } from './NumberField';
import { Button } from './controls';

type Point = readonly number[];

/** One number of each point: its name, unit and how it is shown. */
export interface PointColumn {
  readonly label: string;
  readonly unit?: string;
  readonly digits?: number;
  readonly step?: number;
  readonly least?: number;
  readonly most?: number;
  /** Shown value by kept value: 100 shows a share in per cent. */
  readonly times?: number;
}

interface Props {
  readonly title: string;
  readonly points: readonly Point[];
  readonly columns: readonly PointColumn[];
  readonly onChange: (points: number[][]) => void;
  /** The point that a press on the button adds. */
  readonly next: () => number[];
  readonly add: string;
}

/** A short list of points with a number field for each of their numbers. */
export function PointList({ title, points, columns, onChange, next, add }: Props) {
  const replace = (i: number, point: number[] | null): void =>
    onChange(points.flatMap((p, k) => (k === i ? (point ? [point] : []) : [[...p]])));
  return (
    <div role="group" aria-label={title}>
      {points.map((point, i) => (
        <div key={i} className="mb-1 flex items-start gap-1 border-l-2 pl-2">
          <div className="min-w-0 flex-1">
            {columns.map((column, k) => {
              const times = column.times ?? 1;
              return (
                <NumberField
                  key={column.label}
                  label={column.label}
                  unit={column.unit}
                  digits={column.digits ?? 0}
                  step={column.step}
                  least={column.least}
                  most={column.most}
                  value={defined(point[k]) * times}
                  onChange={(v) =>
                    replace(
                      i,
                      point.map((own, n) => (n === k ? v / times : own)),
                    )
                  }
                />
              );
            })}
          </div>
          <Button
            look="soft"
            aria-label={`Remove ${title} ${i + 1}`}
            className="rounded p-1"
            onClick={() => replace(i, null)}
          >
            <X size={14} />
          </Button>
        </div>
      ))}
      <Button
        look="soft"
        className="flex items-center gap-1 text-small"
        onClick={() => onChange([...points.map((p) => [...p]), next()])}
      >
        <Plus size={14} /> {add}
      </Button>
    </div>
  );
}
