import { Check as CheckSign } from 'lucide-react';
import { Select as Parts } from 'radix-ui';
import { useState } from 'react';
import { giveFocusBack } from './giveFocusBack';

/** A value, and what it is called. */
export type Option<T extends string> = readonly [value: T, text: string];

export interface SelectProps<T extends string> {
  /** Name for screen readers; left out where a label points at `id`. */
  readonly label?: string;
  readonly id?: string;
  readonly value: T;
  readonly options: readonly Option<T>[];
  readonly onChange: (value: T) => void;
  /** What is shown instead of the value: for a menu of actions that has none. */
  readonly placeholder?: string;
  readonly className?: string;
  readonly onFocus?: () => void;
}

/** Stands for the empty value, which the list reserves for "nothing chosen". */
const EMPTY = '(none)';

/** One value from a list that opens below it. The options are built when the field is first focused, not before. */
export function Select<T extends string>(props: SelectProps<T>) {
  const { label, id, value, options, onChange, placeholder, className = '', onFocus } = props;
  const [near, setNear] = useState(false);
  const reach = (): void => {
    setNear(true);
    onFocus?.();
  };
  const text = placeholder ?? options.find(([key]) => key === value)?.[1] ?? value;
  return (
    <Parts.Root
      value={placeholder ? '' : value || EMPTY}
      onValueChange={(key) => onChange((key === EMPTY ? '' : key) as T)}
    >
      <Parts.Trigger
        id={id}
        aria-label={label}
        className={`truncate border-b border-dotted border-soft bg-transparent py-0.5 ${className}`}
        onFocus={reach}
        onPointerEnter={() => setNear(true)}
        // A space within what is typed to find an option would press the button when it is let go.
        onKeyUp={(e) => e.key === ' ' && e.preventDefault()}
      >
        <Parts.Value placeholder={text}>{text}</Parts.Value>
      </Parts.Trigger>
      {near && <OptionList options={options} />}
    </Parts.Root>
  );
}

function OptionList({ options }: { options: readonly Option<string>[] }) {
  return (
    <Parts.Portal>
      <Parts.Content
        position="popper"
        sideOffset={3}
        onCloseAutoFocus={giveFocusBack}
        className="z-50 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) overflow-hidden rounded-md border bg-raised p-1 shadow-md"
      >
        <Parts.Viewport>
          {options.map(([key, text]) => (
            <Parts.Item
              key={key}
              value={key || EMPTY}
              className="flex cursor-pointer items-center justify-between gap-4 rounded px-2 py-0.5 outline-none data-highlighted:bg-paper"
            >
              <Parts.ItemText>{text}</Parts.ItemText>
              <Parts.ItemIndicator>
                <CheckSign size={13} aria-hidden />
              </Parts.ItemIndicator>
            </Parts.Item>
          ))}
        </Parts.Viewport>
      </Parts.Content>
    </Parts.Portal>
  );
}
