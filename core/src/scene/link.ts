import Joi from 'joi';
import { findCycle } from '../math/dependencies';
import type { Entity } from './fields';
import { given, scaledFields, setting } from './fields';
import { frame, id, scaledFrames } from './rules';
import type { Scene } from './scene';

/** A moment of the scene that others can wait for: of a segment, a tether, a marker, or of the keys of a layer at a frame. */
export type Moment =
  | {
      readonly of: 'segment';
      readonly id: string;
      /** Its first frame, the one after its last, or so many frames after its first. */
      readonly at: 'start' | 'end' | number;
    }
  | { readonly of: 'tether' | 'marker'; readonly id: string; readonly at: 'start' | 'end' }
  | {
      readonly of: 'keys';
      /** The layer. */
      readonly id: string;
      /** The frame of the keys. */
      readonly at: number;
    };

const moment = Joi.alternatives().conditional('.of', {
  switch: [
    {
      is: 'segment',
      then: Joi.object({
        of: Joi.string().required(),
        id: id.required(),
        at: Joi.alternatives(Joi.valid('start', 'end'), frame.min(0)).required(),
      }),
    },
    {
      is: Joi.valid('tether', 'marker'),
      then: Joi.object({
        of: Joi.string().required(),
        id: id.required(),
        at: Joi.valid('start', 'end').required(),
      }),
    },
    {
      is: 'keys',
      then: Joi.object({ of: Joi.string().required(), id: id.required(), at: frame.required() }),
    },
  ],
});

const scaledMoment = (m: Moment, factor: number): Moment =>
  typeof m.at === 'number' ? { ...m, at: scaledFrames(m.at, factor) } : m;

/** What is known of a link. */
export const LINK_FIELDS = {
  id: given<string>(id),
  /** What is moved. The end of a segment is moved by making it longer or shorter. */
  follower: given<Moment>(moment.required(), { scaled: scaledMoment }),
  /** What it waits for. */
  leader: given<Moment>(moment.required(), { called: 'event', scaled: scaledMoment }),
  /** Frames by which it comes after that. */
  offset: setting<number>(0, frame, { scaled: scaledFrames }),
};

/** An event that keeps its distance in time to another. */
export type Link = Entity<typeof LINK_FIELDS>;

/** A link when a second has `factor` times as many frames. */
export const scaledLink = (link: Link, factor: number): Link => scaledFields(link, LINK_FIELDS, factor);

/** Whether two moments are the same one. */
export const isSameMoment = (a: Moment, b: Moment): boolean =>
  a.of === b.of && a.id === b.id && a.at === b.at;

const keyOf = ({ of, id }: Pick<Moment, 'of' | 'id'>): string => `${of} ${id}`;

/**
 * The ids of links that wait for each other in a ring; null where there is none. A segment that is moved takes along those behind it on
 * its lane.
 */
export function findLinkRing({ links, lanes }: Pick<Scene, 'links' | 'lanes'>): Link[] | null {
  const all = Object.values(links);
  if (all.length === 0) return null;
  const needs = new Map<string, string[]>();
  const add = (from: string, need: string): void => void needs.set(from, [...(needs.get(from) ?? []), need]);
  for (const link of all) add(keyOf(link.follower), keyOf(link.leader));
  for (const { segments } of Object.values(lanes))
    segments.forEach((s, i) => {
      const before = segments[i - 1];
      if (before !== undefined) add(keyOf({ of: 'segment', id: s }), keyOf({ of: 'segment', id: before }));
    });
  const ring = findCycle(needs);
  if (!ring) return null;
  const within = new Set(ring);
  return all.filter((l) => within.has(keyOf(l.follower)) && within.has(keyOf(l.leader)));
}
