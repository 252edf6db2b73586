import Joi from 'joi';
import { findCycle, inOrderOf } from '../math/dependencies';
import type { Handle } from '../math/spline';
import type { Entity, Fields } from './fields';
import { given, plainOf, scaledFields, setting } from './fields';
import { count, finite, frame, id, scaledFrames, text, weight, yes } from './rules';

/** The limbs that can reach for a thing. */
export const REACHING = ['leftHand', 'rightHand', 'leftFoot', 'rightFoot'] as const;

/** Three numbers or switches, one for each of x, y and z. */
export type PerAxis<T> = readonly [T, T, T];

/** Where what is held sits in the axes of the joint that holds it: metres, and how it is turned (xyzw; null as it is when it is taken). */
export interface Grip {
  readonly place: PerAxis<number>;
  readonly turn: readonly [number, number, number, number] | null;
}

const axes = Joi.array().ordered(yes.required(), yes.required(), yes.required());

const grip = Joi.object({
  place: Joi.array().ordered(finite.required(), finite.required(), finite.required()).required(),
  turn: Joi.array()
    .items(Joi.number().min(-1).max(1))
    .length(4)
    .custom((q: number[], helpers) =>
      Math.abs(Math.hypot(...q) - 1) < 1e-3 ? q : helpers.message({ custom: '{{#label}} is no rotation' }),
    )
    .allow(null)
    .required(),
});

const scaled = { scaled: scaledFrames };

const COMMON_FIELDS = {
  id: given<string>(id),
  name: given<string>(text),
  /** Who or what is held, or led, or reaches. */
  child: given<string>(id),
  /** Who or what holds or leads it, or is reached for. */
  parent: given<string>(id),
  /** Role or name of the joint that holds, or is reached for; null the body as a whole, where its root bone is. */
  joint: setting<string | null>(null, text.allow(null)),
  /** First frame, and the one after the last; null to the end. */
  start: given<number>(frame, scaled),
  end: setting<number | null>(null, frame.greater(Joi.ref('start')).allow(null), {
    scaled: (value, factor) => value && scaledFrames(value, factor),
  }),
  /** Whether it is left out, as if it were not there. */
  muted: setting<boolean>(false, yes),
};

/** What is known of tethers that bring something to its place, or a limb. */
const PLACED_FIELDS = {
  ...COMMON_FIELDS,
  /** Frames in which it is taken to its place, and let go, within them. */
  fadeIn: setting<number>(0, count, scaled),
  fadeOut: setting<number>(0, count, scaled),
  /** (frame, weight 0 to 1) in order of frames, straight between them, held outside; none is full weight. */
  weight: setting<readonly Handle[]>(
    [],
    Joi.array().items(Joi.array().ordered(finite.required(), weight.required())).max(10_000),
    { scaled: (points, factor) => points.map(([f, w]): Handle => [f * factor, w]) },
  ),
  /** Where it sits; null keeps the offset that it has when it is taken. */
  grip: setting<Grip | null>(null, grip.allow(null)),
};

/** The least and the most that a lead can be long, metres. */
export const LEAD_LENGTH = { least: 0.3, most: 20 } as const;

/** What is known of each kind of tether. */
export const TETHER_KINDS = {
  /** The child goes along with the joint. */
  hold: {
    ...PLACED_FIELDS,
    /** Role or name of the child's joint that is held; null holds it as a whole, and it goes on moving by itself. */
    held: setting<string | null>(null, text.allow(null)),
    /** Whether only that joint and what hangs on it are moved. */
    jointOnly: setting<boolean>(false, yes),
    /** Along which axes it follows, and about which it turns along. */
    places: setting<PerAxis<boolean>>([true, true, true], axes),
    turns: setting<PerAxis<boolean>>([true, true, true], axes),
    /** Whose axes these are, as they are at the start. */
    directions: setting<'world' | 'floor' | 'parent' | 'own'>(
      'world',
      Joi.valid('world', 'floor', 'parent', 'own'),
    ),
    /** What becomes of it after the end. */
    after: setting<'stay' | 'return'>('stay', Joi.valid('stay', 'return')),
  },
  /** A hand or foot of the child is brought to the joint by its arm or leg. */
  reach: {
    ...PLACED_FIELDS,
    limb: given<(typeof REACHING)[number]>(Joi.valid(...REACHING)),
  },
  /** The child walks by its own clips, and goes where a lead lets it. */
  lead: {
    ...COMMON_FIELDS,
    /** Role or name of the child's joint that wears the lead; null its neck. */
    held: setting<string | null>(null, text.allow(null)),
    /** Metres of lead from the joint that holds it. */
    length: setting<number>(1.6, Joi.number().min(LEAD_LENGTH.least).max(LEAD_LENGTH.most)),
  },
} satisfies Readonly<Record<string, Fields>>;

/** A prop or character that goes along with a joint of another for a time. */
export type Hold = { readonly kind: 'hold' } & Entity<(typeof TETHER_KINDS)['hold']>;

/** A hand or foot that keeps to a joint of another for a time. */
export type Reach = { readonly kind: 'reach' } & Entity<(typeof TETHER_KINDS)['reach']>;

/** Somebody who walks on a lead. */
export type Lead = { readonly kind: 'lead' } & Entity<(typeof TETHER_KINDS)['lead']>;

export type Tether = Hold | Reach | Lead;

/** What tethers are unless asked otherwise. */
export const PLAIN_HOLD = { kind: 'hold', ...plainOf(TETHER_KINDS.hold) } as const;
export const PLAIN_REACH = { kind: 'reach', ...plainOf(TETHER_KINDS.reach) } as const;
export const PLAIN_LEAD = { kind: 'lead', ...plainOf(TETHER_KINDS.lead) } as const;

/** A tether when a second has `factor` times as many frames; it keeps at least one. */
export function scaledTether(tether: Tether, factor: number): Tether {
  const next = scaledFields<Tether>(tether, TETHER_KINDS[tether.kind], factor);
  return next.end === null ? next : { ...next, end: Math.max(next.end, next.start + 1) };
}

/**
 * The ids of a ring of holds and leads, each held by the next and the last by the first; null where there is none. What reaches for something
 * makes no ring: nothing is held by a hand as it reaches, but as the performance has it.
 */
export const findRing = (tethers: Readonly<Record<string, Tether>>): string[] | null =>
  findCycle(holdersOf(tethers));

/** Who holds or leads whom: the holders of each that is held. */
function holdersOf(tethers: Readonly<Record<string, Tether>>): Map<string, string[]> {
  const parents = new Map<string, string[]>();
  for (const { kind, child, parent } of Object.values(tethers))
    if (kind !== 'reach') parents.set(child, [...(parents.get(child) ?? []), parent]);
  return parents;
}

/** What is said of a ring of holds. */
export const ringMessage = (
  { characters }: { readonly characters: Readonly<Record<string, { readonly name: string }>> },
  ring: readonly string[],
): string => {
  const names = ring.map((id) => characters[id]?.name ?? id);
  return `${[...names, names[0]].join(' would be held by ')}: a ring of tethers cannot be.`;
};

/** Characters in an order in which whoever holds comes before what is held; `ids` in their own order otherwise. */
export const inHoldingOrder = (tethers: Readonly<Record<string, Tether>>, ids: readonly string[]): string[] =>
  inOrderOf(holdersOf(tethers), ids);
