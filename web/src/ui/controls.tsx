import type { VariantProps } from 'class-variance-authority';
import { cva } from 'class-variance-authority';
import { ChevronDown, ChevronRight } from 'lucide-react';
import type { ComponentProps, ReactNode } from 'react';
import { createContext, useContext, useId } from 'react';
import { CheckBox } from './CheckBox';
import type { SelectProps } from './Select';
import { Select } from './Select';

const button = cva('', {
  variants: {
    look: {
      /** An action among others. */
      plain:
        'inline-flex items-center gap-1.5 rounded-md border bg-raised px-3 py-1 whitespace-nowrap hover:border-soft disabled:opacity-40',
      /** The one that a place is for. */
      primary:
        'inline-flex items-center gap-1.5 rounded-md bg-signal px-3.5 py-1 font-semibold whitespace-nowrap text-on-signal hover:brightness-110 disabled:opacity-40',
      /** One that stands back, alone or with a picture. */
      quiet:
        'inline-flex items-center gap-1.5 rounded-md px-2 py-1 whitespace-nowrap text-soft hover:text-ink disabled:opacity-40',
      /** One within text or at the edge of something: no room of its own. */
      soft: 'text-soft hover:text-ink disabled:opacity-40',
      /** A line of a list that is pressed as a whole. */
      row: 'flex w-full items-baseline justify-between gap-2 rounded py-0.5 text-left hover:bg-paper aria-pressed:ring-1 aria-pressed:ring-ink',
      /** One of a few pages in one place. */
      tab: 'border-b-2 border-transparent px-1.5 py-0.5 text-soft hover:text-ink aria-pressed:border-ink aria-pressed:text-ink',
      /** A word that is on or off. */
      chip: 'rounded-full border px-2.5 py-0.5 text-note hover:border-soft aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-paper',
      /** A way elsewhere. */
      link: 'underline',
      /** What is drawn by its place: a part of the timeline, a card. */
      bare: '',
    },
  },
  defaultVariants: { look: 'plain' },
});

/** A button in one of its looks. */
export function Button({ look, className, ...rest }: ComponentProps<'button'> & VariantProps<typeof button>) {
  return <button type="button" className={button({ look, className })} {...rest} />;
}

/** One of a few values, with its name before it. */
export function Choice<T extends string>(props: SelectProps<T> & { readonly label: string }) {
  const { label, ...rest } = props;
  const id = useId();
  return (
    <div className="flex items-baseline justify-between gap-2">
      <label htmlFor={id} className="shrink-0 text-soft">
        {label}
      </label>
      <Select id={id} className="min-w-0 text-right" {...rest} />
    </div>
  );
}

interface CheckProps {
  readonly label: string;
  /** Null where several things share it, and differ. */
  readonly checked: boolean | null;
  readonly onChange: (checked: boolean) => void;
}

/** A yes or no. */
export function Check(props: CheckProps) {
  const id = useId();
  return (
    <div className="flex items-center justify-between gap-2 py-0.5">
      <label htmlFor={id} className="flex-1 text-soft">
        {props.label}
      </label>
      <CheckBox id={id} checked={props.checked} onChange={props.onChange} />
    </div>
  );
}

/** Which groups of fields are folded, by their titles, and how that is changed. */
export interface Folding {
  readonly folded: readonly string[];
  readonly onFold: (title: string) => void;
}

/** Around groups that can be folded; without it they stay open. */
export const FoldingContext = createContext<Folding | null>(null);

/** A quiet heading over a group of fields, by which they are folded where that is remembered. */
export function Group({ title, children }: { title: string; children: ReactNode }) {
  const folding = useContext(FoldingContext);
  const id = useId();
  const isFolded = folding?.folded.includes(title) ?? false;
  return (
    <section className="border-t py-2.5">
      <h3 className="mb-1 text-xs tracking-wide text-soft">
        {folding ? (
          <Button
            look="bare"
            className="flex w-full items-center justify-between text-left hover:text-ink"
            aria-expanded={!isFolded}
            aria-controls={id}
            onClick={() => folding.onFold(title)}
          >
            {title}
            {isFolded ? <ChevronRight size={13} aria-hidden /> : <ChevronDown size={13} aria-hidden />}
          </Button>
        ) : (
          title
        )}
      </h3>
      <div id={id} className="flex flex-col gap-1" hidden={isFolded}>
        {!isFolded && children}
      </div>
    </section>
  );
}
