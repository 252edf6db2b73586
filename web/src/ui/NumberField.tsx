import { useDrag } from '@use-gesture/react';
import type { ComponentProps } from 'react';
import { useEffect, useId, useState } from 'react';
import { parseNumber } from './parseNumber';

interface Props {
  readonly label: string;
  readonly value: number;
  readonly onChange: (value: number) => void;
  /** What one pixel of dragging the label, or one arrow key, changes. */
  readonly step?: number;
  readonly digits?: number;
  readonly unit?: string;
  readonly least?: number;
  readonly most?: number;
  readonly framesPerSecond?: number;
  readonly disabled?: boolean;
  /** Why a value may be limited, as in "Walk has no more frames". */
  readonly limit?: string;
  /** Several things share the field, and differ. */
  readonly mixed?: boolean;
  /** Whether the label is for screen readers alone, as in a table. */
  readonly bare?: boolean;
}

/** A number that takes sums and units, arrow keys, and a drag on its label. */
export function NumberField(props: Props) {
  const { label, unit = '', disabled, bare } = props;
  const id = useId();
  const { input, bind, wrong, limited } = useNumber(props);
  return (
    <div className="flex flex-wrap items-baseline justify-between gap-x-2">
      <label
        htmlFor={id}
        className={bare ? 'sr-only' : 'cursor-ew-resize touch-none text-soft select-none'}
        {...bind()}
      >
        {label}
      </label>
      <span className="flex items-baseline gap-1">
        <input
          id={id}
          className={`${bare ? 'w-14' : 'w-20'} border-b border-dotted bg-transparent py-0.5 text-right outline-offset-2 disabled:opacity-50 ${wrong ? 'border-bad text-bad' : 'border-soft'}`}
          inputMode="decimal"
          disabled={disabled}
          aria-invalid={wrong}
          {...input}
        />
        <span className="min-w-4 text-soft">{unit}</span>
      </span>
      {limited && (
        <p role="status" className="w-full text-right text-note text-watch">
          {limited}
        </p>
      )}
    </div>
  );
}

/** What is typed and dragged, and what comes of it. */
function useNumber(props: Props) {
  const { value, onChange, step = 1, digits = 0, least = -Infinity, most = Infinity } = props;
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  /** What was asked for last, until another value is shown. */
  const [asked, setAsked] = useState<{ readonly value: number; readonly shown: number } | null>(null);
  const set = (next: number): void => {
    const clamped = Math.min(most, Math.max(least, Number(next.toFixed(6))));
    if (clamped !== value || props.mixed) onChange(clamped);
    setAsked({ value: next, shown: NaN });
  };
  useEffect(() => {
    // The first value after what was asked for is what came of it; later ones have other causes.
    if (asked && Number.isNaN(asked.shown)) setAsked({ ...asked, shown: value });
    else if (asked && asked.shown !== value) setAsked(null);
  }, [asked, value]);
  const limited = asked?.shown === value ? limitText(props, asked.value) : '';
  const finish = (): void => {
    if (text === null) return;
    const parsed = parseNumber(text.trim(), { framesPerSecond: props.framesPerSecond });
    setText(null);
    setWrong(parsed === null);
    if (parsed !== null) set(parsed);
  };
  const bind = useDrag(
    ({ movement: [x], first, last, memo }) => {
      const from: number = first ? value : (memo as number);
      if (last && Math.abs(x) > 2) set(from + Math.round(x / 4) * step);
      return from;
    },
    { enabled: !props.disabled },
  );
  const input: ComponentProps<'input'> = {
    value: text ?? (props.mixed ? '' : trim(value, digits)),
    placeholder: props.mixed ? 'mixed' : undefined,
    onFocus: (e) => e.currentTarget.select(),
    onChange: (e) => setText(e.currentTarget.value),
    onBlur: finish,
    onKeyDown: (e) => {
      if (e.key === 'Enter') finish();
      else if (e.key === 'Escape') setText(null);
      else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
        e.preventDefault();
        setText(null);
        set(value + (e.key === 'ArrowUp' ? 1 : -1) * step * (e.shiftKey ? 10 : 1));
      } else return;
      e.stopPropagation();
    },
  };
  return { input, bind, wrong, limited };
}

const trim = (value: number, digits: number): string => String(Number(value.toFixed(digits)));

/** Says that a value could not be what was asked for; empty where it is, to the digits that are shown. */
export function limitText(
  {
    label,
    value,
    digits = 0,
    unit = '',
    limit,
  }: Pick<Props, 'label' | 'value' | 'digits' | 'unit' | 'limit'>,
  asked: number,
): string {
  if (!Number.isFinite(value) || Math.abs(value - asked) <= 0.5 * 10 ** -digits + 1e-9) return '';
  const amount = `${trim(value, digits)}${unit === 'f' ? ' frames' : unit && ` ${unit}`}`;
  return `${label} limited to ${amount}${limit ? `: ${limit}` : ''}`;
}
