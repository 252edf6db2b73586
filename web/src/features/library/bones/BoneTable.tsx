import type { Role, Skeleton } from '@warper/core';
import { jointOfRole, roleWords, defined } from '@warper/core';
import type { ColumnDef, Row } from '@tanstack/react-table';
import { flexRender, getCoreRowModel, getSortedRowModel, useReactTable } from '@tanstack/react-table';
import { useEffect, useMemo, useRef } from 'react';
import { Button } from '../../../ui/controls';
import { Select } from '../../../ui/Select';
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

const SORTS = { asc: 'ascending', desc: 'descending' } as const;

/** Every bone of the clip: which part of the body it is, and which bone of the character follows it. */
export function BoneTable(props: Props) {
  const { rows, chosen, onChoose } = props;
  const element = useRef<HTMLTableElement>(null);
  const table = useReactTable({
    data: rows as BoneRow[],
    columns: useColumns(props),
    getRowId: (row) => row.name,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  useEffect(() => {
    element.current?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);
  return (
    <table
      ref={element}
      className="w-full table-fixed border-separate border-spacing-0"
      role="grid"
      aria-label="Bones"
    >
      <thead>
        <tr className="text-left text-note text-soft">
          {table.getFlatHeaders().map(({ id, column }) => {
            const sorted = column.getIsSorted();
            return (
              <th
                key={id}
                scope="col"
                aria-sort={sorted ? SORTS[sorted] : 'none'}
                className="sticky top-0 z-10 border-b bg-raised py-1 pr-2 font-normal"
              >
                <Button look="soft" onClick={column.getToggleSortingHandler()}>
                  {id}
                  {sorted && (sorted === 'desc' ? ' ↓' : ' ↑')}
                </Button>
              </th>
            );
          })}
        </tr>
      </thead>
      <tbody>
        {table.getRowModel().rows.map((row) => (
          <BoneLine key={row.id} row={row} chosen={row.original.joint === chosen} onChoose={onChoose} />
        ))}
      </tbody>
    </table>
  );
}

interface LineProps {
  readonly row: Row<BoneRow>;
  readonly chosen: boolean;
  readonly onChoose: (joint: number) => void;
}

function BoneLine({ row, chosen, onChoose }: LineProps) {
  const { joint, name, state } = row.original;
  return (
    <tr
      aria-selected={chosen}
      data-bone-row={name}
      data-state={state}
      className={chosen ? 'bg-paper' : undefined}
      onClick={() => onChoose(joint)}
    >
      {row.getVisibleCells().map((cell) => (
        <td key={cell.id} className="max-w-36 truncate border-b py-0.5 pr-2">
          {flexRender(cell.column.columnDef.cell, cell.getContext())}
        </td>
      ))}
    </tr>
  );
}

function useColumns({ source, target, onChoose, onRole }: Props): ColumnDef<BoneRow>[] {
  return useMemo(() => {
    const partnerName = ({ partner }: BoneRow): string => target.names[partner] ?? '';
    const column = (
      id: string,
      accessorFn: (row: BoneRow) => string,
      cell: (row: BoneRow) => React.ReactNode,
    ): ColumnDef<BoneRow> => ({
      id,
      accessorFn,
      sortDescFirst: false,
      cell: ({ row }) => cell(row.original),
    });
    return [
      column('Bone of the clip', (row) => row.name, boneName),
      column(
        'Part of the body',
        (row) => (row.role ? roleWords(row.role) : ''),
        (row) => (
          <Select
            label={`Part that ${row.name} is`}
            className={`w-full text-left ${row.byHand ? 'font-semibold' : ''}`}
            value={row.role ?? ''}
            options={[
              ['', 'none'],
              ...ALL_ROLES.map((role) => [role, roleOption(role, source, row.joint)] as const),
            ]}
            onFocus={() => onChoose(row.joint)}
            onChange={(role) => onRole(row.name, role || null)}
          />
        ),
      ),
      column(
        'Bone of the character',
        partnerName,
        (row) => partnerName(row) || <span className="text-soft">{row.role ? 'none' : '–'}</span>,
      ),
    ];
  }, [source, target, onChoose, onRole]);
}

function boneName({ name, state }: BoneRow) {
  const { shape, word, colour } = STATES[state];
  return (
    <span title={name}>
      <span className={`${colour} mr-1.5`} aria-hidden>
        {shape}
      </span>
      {name}
      <span className="sr-only">, {word}</span>
    </span>
  );
}

/** A role, and who has it so far. */
function roleOption(role: Role, source: Skeleton, joint: number): string {
  const has = jointOfRole(source, role);
  return has >= 0 && has !== joint ? `${roleWords(role)} (${defined(source.names[has])})` : roleWords(role);
}
