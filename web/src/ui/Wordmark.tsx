import { Link } from 'react-router';

/** The name of the program, which leads to the scenes. */
export function Wordmark() {
  return (
    <Link to="/" aria-label="Warper: all scenes" className="text-base font-bold tracking-wide">
      War<span className="text-signal">p</span>er
    </Link>
  );
}
