import type { Plan } from '@warper/core';
import { selectAlternates, selectSheets } from '../../../store/alternates';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { commandOf } from '../commands/commands';
import type { Row } from './rows';
import type { Sheet } from './sheets';
import { sheetsOf } from './sheets';

/** Pixels by which the second sheet lies beside the first, and of the line with its name. */
const ASIDE = 4;
const NAME = 13;

interface Props {
  readonly plan: Plan;
  readonly rows: readonly Row[];
  /** Pixels of a frame. */
  readonly ppf: number;
}

/** A row with the frames that are the own ones of the alternate in hand. */
function useSheets({ plan, rows }: Omit<Props, 'ppf'>): { readonly row: Row; readonly sheet: Sheet }[] {
  const found = useAppSelector(selectSheets);
  if (!found) return [];
  return rows.flatMap((row) =>
    sheetsOf(row.plan.character.id, found.scope, found.spans, plan.end).map((sheet) => ({ row, sheet })),
  );
}

interface SheetsProps extends Props {
  /** Pixels from the top to the lanes of shots, sounds and lines, and their height: they are nobody's. */
  readonly filmed: { readonly top: number; readonly height: number };
}

/** Where the alternate in hand may differ from others, or does: a second sheet of paper under what is on the lanes. */
export function AlternateSheets({ ppf, filmed, ...props }: SheetsProps) {
  const scope = useAppSelector((s) => selectSheets(s)?.scope);
  const isOfAll = scope?.characters === null && filmed.height > 0;
  return (
    <>
      {useSheets(props).map(({ row, sheet }) => (
        <Papers
          key={`${row.lane.id} ${sheet.from}`}
          sheet={sheet}
          top={row.top}
          height={row.height - row.below}
          ppf={ppf}
        />
      ))}
      {isOfAll && <Papers sheet={scope} {...filmed} ppf={ppf} />}
    </>
  );
}

interface PapersProps {
  readonly sheet: Sheet;
  readonly top: number;
  readonly height: number;
  readonly ppf: number;
}

/** A sheet of paper, and a second one that looks out from under it. */
function Papers({ sheet: { from, to }, top, height, ppf }: PapersProps) {
  const place = { left: from * ppf, width: (to - from) * ppf, height: height - 2 * ASIDE };
  const paper = 'pointer-events-none absolute rounded-[3px] border border-rule';
  return (
    <div aria-hidden>
      <div
        className={`${paper} bg-paper shadow-[1px_1px_2px_rgb(0_0_0/0.14)]`}
        style={{ ...place, left: place.left + ASIDE, top: top + 2 * ASIDE - 1 }}
      />
      <div className={`${paper} bg-raised`} style={{ ...place, top: top + ASIDE - 1 }} />
    </div>
  );
}

/** The name of the alternate in hand at the foot of its sheets; pressed, the next one is taken in hand. */
export function SheetNames({ ppf, ...props }: Props) {
  const dispatch = useAppDispatch();
  const alternates = useAppSelector(selectAlternates);
  const place = alternates.findIndex((a) => a.differences === null);
  const inHand = alternates[place];
  const sheets = useSheets(props).filter(({ row }) => row.lane.kind === 'body' && !row.folded);
  if (!inHand) return null;
  const words = `${inHand.name} · ${place + 1} of ${alternates.length}`;
  return sheets.map(({ row, sheet: { from, to } }) => (
    <Button
      look="bare"
      key={`${row.lane.id} ${from}`}
      data-sheet={row.plan.character.id}
      title="Swap to the next alternate (S)"
      aria-label={`${inHand.name}, alternate ${place + 1} of ${alternates.length}, ${row.plan.character.name}, frames ${from} to ${to - 1}: swap to the next`}
      className="absolute z-10 flex justify-end overflow-hidden text-tick leading-[13px] text-soft hover:text-ink"
      style={{
        left: from * ppf,
        width: Math.max(0, (to - from) * ppf),
        top: row.top + row.height - row.below - NAME - ASIDE,
        height: NAME,
      }}
      onPointerDown={(e) => e.stopPropagation()}
      onClick={() => dispatch(commandOf('next alternate').run)}
    >
      <span className="truncate rounded-sm bg-raised px-1">{words}</span>
    </Button>
  ));
}
