import type { ButtonHTMLAttributes, ReactNode } from 'react';
import { useId } from 'react';

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  readonly look?: 'plain' | 'primary' | 'quiet';
}

const LOOKS = {
  plain: 'border bg-raised px-3 py-1 hover:border-soft',
  primary: 'bg-signal px-3.5 py-1 font-semibold text-on-signal hover:brightness-110',
  quiet: 'px-2 py-1 text-soft hover:text-ink',
} as const;

/** A button in one of three weights. */
export function Button({ look = 'plain', className = '', ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      className={`inline-flex items-center gap-1.5 rounded-md whitespace-nowrap disabled:opacity-40 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}

interface ChoiceProps<T extends string> {
  readonly label: string;
  readonly value: T;
  readonly options: readonly (readonly [T, string])[];
  readonly onChange: (value: T) => void;
}

/** One of a few values. */
export function Choice<T extends string>({ label, value, options, onChange }: ChoiceProps<T>) {
  const id = useId();
  return (
    <div className="flex items-baseline justify-between gap-2">
      <label htmlFor={id} className="text-soft">
        {label}
      </label>
      <select
        id={id}
        className="border-b border-dotted border-soft bg-transparent py-0.5 pr-1 text-right [&>option]:bg-raised"
        value={value}
        onChange={(e) => onChange(e.currentTarget.value as T)}
      >
        {options.map(([key, text]) => (
          <option key={key} value={key}>
            {text}
          </option>
        ))}
      </select>
    </div>
  );
}

/** A yes or no. */
export function Check(props: { label: string; checked: boolean; onChange: (v: boolean) => void }) {
  return (
    <label className="flex items-center justify-between gap-2 py-0.5">
      <span className="text-soft">{props.label}</span>
      <input
        type="checkbox"
        className="size-4 accent-ink"
        checked={props.checked}
        onChange={(e) => props.onChange(e.currentTarget.checked)}
      />
    </label>
  );
}

/** A quiet heading over a group of fields. */
export function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-t py-2.5">
      <h3 className="mb-1 text-xs tracking-wide text-soft">{title}</h3>
      <div className="flex flex-col gap-1">{children}</div>
    </section>
  );
}
