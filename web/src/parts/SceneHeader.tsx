import { Link } from 'react-router';
import { Wordmark } from '../ui/Wordmark';
import { ThemeButton } from './ThemeButton';

/** The head of a page of a scene beside its workbench: the way back, and what this one is. */
export function SceneHeader({ id, name, page }: { id: string; name: string; page: string }) {
  return (
    <header className="flex h-[46px] shrink-0 items-center gap-4 border-b px-4">
      <Wordmark />
      <Link to={`/scene/${id}`} className="underline decoration-rule underline-offset-4">
        {name}
      </Link>
      <span className="text-soft">{page}</span>
      <span className="flex-1" />
      <ThemeButton />
    </header>
  );
}
