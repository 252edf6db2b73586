import { useId, useState } from 'react';

interface Props {
  readonly label: string;
  readonly value: string;
  readonly placeholder?: string;
  readonly onChange: (value: string) => void;
  /** Whether the label is for screen readers alone, as in a table. */
  readonly bare?: boolean;
}

/** A line of text that is taken over on Enter and when it is left; Escape goes back. */
export function TextField({ label, value, placeholder, onChange, bare }: Props) {
  const id = useId();
  const [text, setText] = useState<string | null>(null);
  const finish = (): void => {
    if (text !== null && text.trim() !== value) onChange(text.trim());
    setText(null);
  };
  return (
    <div className="flex items-baseline justify-between gap-2">
      <label htmlFor={id} className={bare ? 'sr-only' : 'shrink-0 text-soft'}>
        {label}
      </label>
      <input
        id={id}
        className={`w-full min-w-0 border-b border-dotted border-soft bg-transparent py-0.5 ${bare ? '' : 'text-right'}`}
        value={text ?? value}
        placeholder={placeholder}
        onChange={(e) => setText(e.currentTarget.value)}
        onBlur={finish}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') finish();
          if (e.key === 'Escape') setText(null);
        }}
      />
    </div>
  );
}
