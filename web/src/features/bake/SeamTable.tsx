import { defined } from '@warper/core';
import type { BakedSeam } from '@warper/formats';
import { GradeMark, cm, degrees } from '../../ui/grade';

/** The seams within what is baked, and their measures. */
export function SeamTable({ seams }: { readonly seams: readonly BakedSeam[] }) {
  const several = new Set(seams.map((s) => s.character.character.id)).size > 1;
  return (
    <section aria-label="Measures" className="mt-6">
      <h2 className="mb-2 text-title font-bold">Seams in it</h2>
      {seams.length === 0 && <p className="text-soft">No seam lies within it.</p>}
      {seams.length > 0 && (
        <table className="w-full text-right">
          <thead className="text-soft">
            <tr>
              <th className="text-left font-normal">Seam</th>
              <th className="font-normal">Frame</th>
              <th className="font-normal">Pop</th>
              <th className="font-normal">Glide</th>
              <th className="font-normal">Turn</th>
            </tr>
          </thead>
          <tbody>
            {seams.map(({ character, measures: s }) => (
              <tr key={`${character.character.id} ${s.index}`} className="border-t">
                <td className="py-1 text-left">
                  <GradeMark grade={s.grade} />{' '}
                  {several && <span className="text-soft">{character.character.name}: </span>}
                  {defined(character.segments[s.index]).name} →{' '}
                  {defined(character.segments[s.index + 1]).name}
                </td>
                <td>{s.frame}</td>
                <td>{cm(s.popCm)}</td>
                <td>{cm(s.surgeCm)}</td>
                <td>{degrees(s.turnDegrees)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
