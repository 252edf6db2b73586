import { Check as CheckSign, Minus } from 'lucide-react';
import { Checkbox } from 'radix-ui';
import type { ComponentProps } from 'react';

type Props = Omit<ComponentProps<typeof Checkbox.Root>, 'checked' | 'onChange' | 'onCheckedChange'> & {
  /** Null where it is neither. */
  readonly checked: boolean | null;
  readonly onChange: (checked: boolean) => void;
};

/** A box that is ticked or not. */
export function CheckBox({ checked, onChange, className = '', ...rest }: Props) {
  return (
    <Checkbox.Root
      checked={checked ?? 'indeterminate'}
      onCheckedChange={(state) => onChange(state === true)}
      className={`grid size-4 shrink-0 place-items-center rounded-[3px] border border-soft bg-raised text-paper data-[state=checked]:border-ink data-[state=checked]:bg-ink ${className}`}
      {...rest}
    >
      <Checkbox.Indicator>
        {checked === null ? (
          <Minus size={12} strokeWidth={3} className="text-ink" aria-hidden />
        ) : (
          <CheckSign size={12} strokeWidth={3} aria-hidden />
        )}
      </Checkbox.Indicator>
    </Checkbox.Root>
  );
}
