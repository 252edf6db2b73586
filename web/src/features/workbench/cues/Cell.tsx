import { useState } from 'react';

interface Props {
  readonly label: string;
  readonly value: string;
  readonly placeholder?: string;
  /** Id of a list of values to choose from. */
  readonly list?: string;
  readonly wide?: boolean;
  readonly disabled?: boolean;
  readonly onChange: (value: string) => void;
}

/** A cell of a table that is typed into; taken over on Enter and when it is left, Escape goes back. */
export function Cell({ label, value, placeholder, list, wide = true, disabled, onChange }: Props) {
  const [text, setText] = useState<string | null>(null);
  const finish = (): void => {
    const typed = text?.trim();
    setText(null);
    if (typed !== undefined && typed !== '' && typed !== value) onChange(typed);
  };
  return (
    <input
      aria-label={label}
      className={`border-b border-transparent bg-transparent py-0.5 hover:border-rule focus:border-ink disabled:opacity-50 ${wide ? 'w-full' : 'w-16 text-right'}`}
      value={text ?? value}
      placeholder={placeholder}
      list={list}
      disabled={disabled}
      onFocus={(e) => e.currentTarget.select()}
      onChange={(e) => setText(e.currentTarget.value)}
      onBlur={finish}
      onKeyDown={(e) => {
        if (e.key === 'Enter') finish();
        else if (e.key === 'Escape') setText(null);
        else return;
        e.stopPropagation();
      }}
    />
  );
}
