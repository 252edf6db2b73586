import { Command } from 'cmdk';
import type { ReactNode } from 'react';

interface GroupProps {
  readonly title: string;
  /** Shown whatever is searched for: what is in it has been found elsewhere. */
  readonly found?: boolean;
  readonly children: ReactNode;
}

/** A titled part of the palette. */
export const PaletteGroup = ({ title, found, children }: GroupProps) => (
  <Command.Group
    heading={title}
    forceMount={found}
    className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-soft"
  >
    {children}
  </Command.Group>
);

interface ItemProps {
  readonly name: string;
  /** Other words that find it. */
  readonly words?: string;
  /** What stands at the right: its key, or what it is. */
  readonly beside?: string;
  /** Told from others of the same name. */
  readonly id?: string;
  /** Shown whatever is searched for: it has been found elsewhere. */
  readonly found?: boolean;
  readonly onSelect: () => void;
}

/** One thing that can be done or gone to. */
export const PaletteItem = ({ name, words = '', beside, id = '', found, onSelect }: ItemProps) => (
  <Command.Item
    value={`${name}${id && ` #${id}`}`}
    keywords={[words]}
    forceMount={found}
    className="flex cursor-pointer justify-between gap-4 rounded px-2 py-1 data-[selected=true]:bg-paper"
    onSelect={onSelect}
  >
    <span className="truncate">{name}</span>
    <kbd className="shrink-0 font-sans text-note text-soft">{beside}</kbd>
  </Command.Item>
);
