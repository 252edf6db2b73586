import type { Row } from './rows';
import { useAppSelector } from '../../../store/store';

const HEIGHT = 15;

/** While a clip of the library is dragged: the places above each character's lanes where it becomes a layer. */
export function NewLayerPlaces({ rows }: { readonly rows: readonly Row[] }) {
  const carrying = useAppSelector((s) => s.session.carrying);
  if (!carrying) return null;
  const tops = rows.filter(
    (row, i) => !row.folded && row.plan.character.id !== rows[i - 1]?.plan.character.id,
  );
  return tops.map(({ plan: { character }, top }) => (
    <div
      key={character.id}
      data-new-layer={character.id}
      className="absolute inset-x-0 z-10 border border-dashed border-signal bg-raised/90"
      style={{ top, height: HEIGHT }}
    >
      <span className="sticky left-0 block w-max px-2 text-note leading-3.5 text-soft">
        New layer over {character.name}
      </span>
    </div>
  ));
}
