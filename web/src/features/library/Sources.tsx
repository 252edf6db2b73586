import { NavLink } from 'react-router';

const SOURCES = [
  ['/library', 'This browser'],
  ['/library/server', 'Library server'],
] as const;

/** Where clips are looked for. */
export function Sources() {
  return (
    <>
      <h2 className="mb-1 text-xs tracking-wide text-soft">Source</h2>
      <ul aria-label="Source" className="mb-4">
        {SOURCES.map(([to, name]) => (
          <li key={to}>
            <NavLink
              to={to}
              end
              className={({ isActive }) =>
                `block rounded px-1.5 py-0.5 ${isActive ? 'bg-raised font-semibold ring-1 ring-rule' : 'hover:bg-raised'}`
              }
            >
              {name}
            </NavLink>
          </li>
        ))}
      </ul>
    </>
  );
}
