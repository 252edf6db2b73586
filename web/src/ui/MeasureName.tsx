import { Tooltip } from 'radix-ui';
import { Link } from 'react-router';
import type { MeasureText } from './measures';
import { limitsText } from './measures';

/** The name of a measure, or other words for it; pointed at or focused it says what it is, and leads to how it is judged. */
export function MeasureName({ text, children }: { readonly text: MeasureText; readonly children?: string }) {
  return (
    <Tooltip.Provider delayDuration={250}>
      <Tooltip.Root>
        <Tooltip.Trigger asChild>
          <Link
            to={`/measures#${text.name.toLowerCase()}`}
            className="border-b border-dotted border-soft hover:border-ink"
          >
            {children ?? text.name}
          </Link>
        </Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            side="left"
            sideOffset={8}
            className="z-50 max-w-72 rounded-md border bg-raised px-3 py-2 text-left shadow-lg"
          >
            <b>{text.name}</b> in {text.unit}: {text.what}
            <span className="mt-1 block text-soft">{limitsText(text)}</span>
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}
