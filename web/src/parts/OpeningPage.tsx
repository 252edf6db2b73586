import { Link } from 'react-router';
import type { Opening } from './useOpenScene';

/** Shown while a scene opens, or where it cannot be. */
export function OpeningPage({ opening }: { opening: Opening }) {
  return (
    <main className="grid h-full place-items-center">
      {opening.state === 'failed' ? (
        <div role="alert" className="max-w-md text-center">
          <p className="text-lg font-bold">{opening.message}</p>
          <p className="my-2 text-soft">{opening.hint}</p>
          <Link to="/" className="underline">
            All scenes
          </Link>
        </div>
      ) : (
        <p role="status" className="text-soft">
          Opening the scene
        </p>
      )}
    </main>
  );
}
