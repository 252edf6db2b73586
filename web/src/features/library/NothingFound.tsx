import { Button } from '../../ui/controls';

interface Props {
  /** Said where there are no clips at all. */
  readonly empty: string | null;
  /** Said where none is what is looked for. */
  readonly none: string;
  readonly clear: () => void;
}

/** What stands where no clip does, and what can be done about it. */
export function NothingFound({ empty, none, clear }: Props) {
  return (
    <div className="grid h-full place-items-center text-center text-soft">
      {empty === null ? (
        <div>
          <p className="mb-2">{none}</p>
          <Button onClick={clear}>Show all clips</Button>
        </div>
      ) : (
        <p>{empty}</p>
      )}
    </div>
  );
}
