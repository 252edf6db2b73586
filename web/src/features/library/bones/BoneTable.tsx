import type { Role, Skeleton } from '@warper/core';
import { jointOfRole, roleWords, defined } from '@warper/core';
import { useEffect, useRef } from 'react';
import type { BoneRow, BoneState } from './boneRows';
import { ALL_ROLES } from './boneRows';

interface Props {
  readonly rows: readonly BoneRow[];
  readonly source: Skeleton;
  readonly target: Skeleton;
  readonly chosen: number;
  readonly onChoose: (joint: number) => void;
  readonly onRole: (joint: string, role: Role | null) => void;
}

const STATES: Record<BoneState, { shape: string; word: string; colour: string }> = {
  mapped: { shape: '●', word: 'mapped', colour: 'text-good' },
  doubtful: { shape: '▲', word: 'doubtful', colour: 'text-watch' },
  unmapped: { shape: '○', word: 'not mapped', colour: 'text-bad' },
};

/** Every bone of the clip: which part of the body it is, and which bone of the character follows it. */
export function BoneTable({ rows, source, target, chosen, onChoose, onRole }: Props) {
  const table = useRef<HTMLTableElement>(null);
  useEffect(() => {
    table.current?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);
  return (
    <table
      ref={table}
      className="w-full table-fixed border-separate border-spacing-0"
      role="grid"
      aria-label="Bones"
    >
      <thead>
        <tr className="text-left text-note text-soft">
          {['bone of the clip', 'part of the body', 'bone of the character'].map((title) => (
            <th key={title} scope="col" className="sticky top-0 border-b bg-raised py-1 pr-2 font-normal">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => {
          const { shape, word, colour } = STATES[row.state];
          return (
            <tr
              key={row.joint}
              aria-selected={row.joint === chosen}
              data-bone-row={row.name}
              data-state={row.state}
              className={row.joint === chosen ? 'bg-paper' : undefined}
              onClick={() => onChoose(row.joint)}
            >
              <td className="max-w-36 truncate border-b py-0.5 pr-2" title={row.name}>
                <span className={`${colour} mr-1.5`} aria-hidden>
                  {shape}
                </span>
                {row.name}
                <span className="sr-only">, {word}</span>
              </td>
              <td className="border-b pr-2">
                <select
                  aria-label={`Part that ${row.name} is`}
                  className={`w-full truncate border-b border-dotted border-soft bg-transparent py-0.5 [&>option]:bg-raised ${row.byHand ? 'font-semibold' : ''}`}
                  value={row.role ?? ''}
                  onFocus={() => onChoose(row.joint)}
                  onChange={(e) => onRole(row.name, (e.currentTarget.value || null) as Role | null)}
                >
                  <option value="">none</option>
                  {ALL_ROLES.map((role) => (
                    <option key={role} value={role}>
                      {roleOption(role, source, row.joint)}
                    </option>
                  ))}
                </select>
              </td>
              <td className="max-w-32 truncate border-b">
                {row.partner >= 0 ? (
                  target.names[row.partner]
                ) : (
                  <span className="text-soft">{row.role ? 'has none' : '–'}</span>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** A role, and who has it so far. */
function roleOption(role: Role, source: Skeleton, joint: number): string {
  const has = jointOfRole(source, role);
  return has >= 0 && has !== joint ? `${roleWords(role)} (${defined(source.names[has])})` : roleWords(role);
}
