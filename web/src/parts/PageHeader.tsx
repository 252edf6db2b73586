import type { ReactNode } from 'react';
import { NavLink } from 'react-router';
import { Wordmark } from '../ui/Wordmark';
import { ThemeButton } from './ThemeButton';

const PAGES = [
  ['/', 'Scenes'],
  ['/library', 'Library'],
] as const;

/** The head of the pages outside a scene: the way between them, and what this one offers. */
export function PageHeader({ children }: { children: ReactNode }) {
  return (
    <header className="flex min-h-[46px] shrink-0 flex-wrap items-center gap-3 border-b px-6">
      <Wordmark />
      <nav aria-label="Pages" className="ml-4 flex gap-4">
        {PAGES.map(([to, name]) => (
          <NavLink
            key={to}
            to={to}
            end={to === '/'}
            className={({ isActive }) => (isActive ? 'border-b-2 border-signal' : 'text-soft hover:text-ink')}
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <span className="flex-1" />
      <ThemeButton />
      {children}
    </header>
  );
}
