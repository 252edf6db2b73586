import type { Fields, Hold, Lead, Reach, Skeleton, Tether } from '@warper/core';
import { InputError, PLAIN_HOLD, PLAIN_LEAD, PLAIN_REACH, TETHER_KINDS, jointNamed } from '@warper/core';
import { closest } from 'fastest-levenshtein';
import { check, word } from './checkKeys';
import type { PlacedEdit } from './placedEdit';

/**
 * Who or what is held by whom, reaches for what, or is on a lead. Child and parent are characters of the sheet by name, joints roles or names; `kind` is
 * "hold" unless a limb reaches, or somebody is on a lead. All else is as in `Tether`.
 */
export type CueTether = { readonly child: string; readonly parent: string; readonly start: number } & (
  | ({ readonly kind?: 'hold' } & Partial<Omit<Hold, 'id' | 'kind' | 'child' | 'parent' | 'start'>>)
  | ({ readonly kind: 'reach'; readonly limb: Reach['limb'] } & Partial<
      Omit<Reach, 'id' | 'kind' | 'child' | 'parent' | 'start' | 'limb'>
    >)
  | ({ readonly kind: 'lead' } & Partial<Omit<Lead, 'id' | 'kind' | 'child' | 'parent' | 'start'>>)
);

const keysOf = (fields: Fields): Record<string, Fields[string]['schema']> => ({
  ...Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, field.schema])),
  kind: word,
  child: word.required(),
  parent: word.required(),
});

const { id: _, ...HOLD } = TETHER_KINDS.hold;
const { id: __, ...REACH } = TETHER_KINDS.reach;
const { id: ___, ...LEAD } = TETHER_KINDS.lead;
const KEYS = { hold: keysOf(HOLD), reach: keysOf(REACH), lead: keysOf(LEAD) };
const NEEDED = { hold: ['start'], reach: ['start', 'limb'], lead: ['start'] } as const;

/** Checks a tether of a sheet. */
export function checkTether(value: unknown, path: string): void {
  const kind = (value as { kind?: unknown } | null)?.kind ?? 'hold';
  if (kind !== 'hold' && kind !== 'reach' && kind !== 'lead')
    throw new InputError('cues', `A tether is a hold, a reach or a lead, not ${JSON.stringify(kind)}.`, {
      place: { path: `${path}.kind` },
    });
  const tether = check<CueTether>(value, KEYS[kind], path);
  for (const key of NEEDED[kind])
    if (!(key in tether))
      throw new InputError('cues', `${key} is required in ${path}.`, { place: { path: `${path}.${key}` } });
}

/** A character of the sheet, as tethers need it. */
export interface Tethered {
  readonly id: string;
  readonly name: string;
  readonly skeleton: Skeleton;
}

/**
 * The edits that tether those of a sheet to each other.
 *
 * @throws InputError `cues` where the sheet has no character, or a body no joint, of that name
 */
export function tetherEdits(tethers: readonly CueTether[], cast: readonly Tethered[]): PlacedEdit[] {
  return tethers.map((asked, i): PlacedEdit => {
    const path = `tethers[${i}]`;
    const find = (name: string, key: string): Tethered => {
      const one = cast.find((c) => c.name === name);
      if (one) return one;
      throw new InputError('cues', `The sheet has no character ${name}.`, {
        place: { path: `${path}.${key}` },
        hint: `Its characters are ${cast.map((c) => c.name).join(', ')}.`,
      });
    };
    const [child, parent] = [find(asked.child, 'child'), find(asked.parent, 'parent')];
    requireJoint(parent, asked.joint, `${path}.joint`);
    if (asked.kind !== 'reach') requireJoint(child, asked.held, `${path}.held`);
    const common = {
      id: `t${i + 1}`,
      name: asked.name ?? `${child.name} to ${parent.name}`,
      child: child.id,
      parent: parent.id,
    };
    return { path, edit: { type: 'tether', tether: tetherOf(asked, common) } };
  });
}

function tetherOf(asked: CueTether, common: Pick<Tether, 'id' | 'name' | 'child' | 'parent'>): Tether {
  if (asked.kind === 'reach') return { ...PLAIN_REACH, ...asked, ...common };
  if (asked.kind === 'lead') return { ...PLAIN_LEAD, ...asked, ...common };
  return { ...PLAIN_HOLD, ...asked, ...common, kind: 'hold' };
}

function requireJoint({ name, skeleton }: Tethered, joint: string | null | undefined, path: string): void {
  if (joint === null || joint === undefined) return;
  if (jointNamed(skeleton, joint) >= 0) return;
  const names = [...new Set([...skeleton.roles.flatMap((r) => r ?? []), ...skeleton.names])];
  throw new InputError('cues', `${name} has no joint ${joint}.`, {
    place: { path },
    hint: `Did you mean "${closest(joint, names)}"?`,
  });
}
