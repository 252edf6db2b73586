import type { ClipUse, Dial, LookTarget } from '@warper/core';
import { DIALS, PLAIN_LOOK, combinedDials } from '@warper/core';
import type { ClipFilter } from '@warper/formats';
import { CLIP_FILTERS } from '@warper/formats';
import Joi from 'joi';
import { checkQuery } from '../checkQuery';
import type { Question } from './catalogue';

/** Most clips of a page. */
const MOST_PER_PAGE = 200;

const id = Joi.string().pattern(/^[\w.:#@~-]{1,200}$/, 'id');

/** A list of words behind one key: `a,b` or the key several times. */
const list = (items: Joi.Schema): Joi.Schema =>
  Joi.array()
    .items(items)
    .max(20)
    .default([])
    .custom((value: string[]) => [...new Set(value)]);

/** What can be asked of a search. The rules and descriptions are also those of the service's OpenAPI document. */
export const searchRules = Joi.object({
  q: Joi.string()
    .allow('')
    .max(200)
    .default('')
    .description('Words of name, folder, file and facts; beginnings are enough, all must be found.'),
  filters: list(Joi.valid(...CLIP_FILTERS)).description('Facts that all have, parted by commas.'),
  tag: Joi.string().allow('').max(200).default('').description('A folder that the file is in.'),
  sort: Joi.valid('best', 'name', 'seconds', 'travel').default('best').description('Order of the clips.'),
  page: Joi.number().integer().min(1).max(1e6).default(1).description('Page, from 1.'),
  per: Joi.number().integer().min(1).max(MOST_PER_PAGE).default(50).description('Clips of a page.'),
});

/** What the dials of a clip do. */
const DIAL_WORDS: Readonly<Record<Dial, string>> = {
  clearance: 'Degrees by which both arms swing out.',
  lean: 'Degrees by which the trunk leans forward.',
  stance: 'Metres by which the feet stand further apart.',
  crouch: 'Metres by which the hips are lower.',
  arms: 'How much the arms depart from their mean pose.',
  trunk: 'How much the trunk departs from its mean pose.',
};

const NUMBER = /^-?\d{1,6}(\.\d{1,6})?$/;

/** Reads a place: three numbers, parted by commas. */
function readPlace(value: string, helpers: Joi.CustomHelpers): LookTarget | Joi.ErrorReport {
  const parts = value.split(',');
  const [x = 0, y = 0, z = 0] = parts.map(Number);
  return parts.length === 3 && parts.every((part) => NUMBER.test(part.trim()))
    ? { point: [x, y, z] }
    : helpers.message({ custom: '{{#label}} must be three numbers, such as 1,1.6,3' });
}

/** What can be asked of a clip that is prepared. */
export const motionRules = Joi.object({
  character: id.description('Id of the character that it is mapped onto; default its own bones.'),
  rate: Joi.number().greater(0).max(1000).description('Samples a second; default its own.'),
  speed: Joi.number().min(0.05).max(20).default(1).description('How fast it plays.'),
  travel: Joi.valid('recorded', 'in place', 'in-place', 'restored')
    .default('recorded')
    .description('What is done with its travel.'),
  in: Joi.number().integer().min(0).max(1e7).description('First sample.'),
  out: Joi.number().integer().min(1).max(1e7).description('The sample after the last.'),
  mirror: Joi.boolean().default(false).description('Whether left and right are swapped.'),
  ...Object.fromEntries(
    Object.entries(DIALS).map(([name, { least, most, none }]) => [
      name,
      Joi.number()
        .min(least)
        .max(most)
        .default(none)
        .description(DIAL_WORDS[name as Dial]),
    ]),
  ),
  look: Joi.string()
    .custom(readPlace)
    .description('Place that the head follows, x,y,z in metres, where the clip was recorded.'),
  body: Joi.valid('with', 'without')
    .default('with')
    .description('Whether the mesh goes with it; BVH holds none.'),
  format: Joi.valid('glb', 'bvh').default('glb').description('Format of the file.'),
});

/** The id of a clip or character in an address. */
export const idRules = Joi.object({ id: id.required().description('What lists call it by.') });

/** A clip that is asked for, ready for use. */
export interface MotionRequest {
  readonly character: string | null;
  readonly rate: number | null;
  readonly use: ClipUse;
  readonly withMesh: boolean;
  readonly format: 'glb' | 'bvh';
}

/**
 * Reads what is looked for from a query.
 *
 * @throws InputError `query` with the key that is wrong
 */
export function parseSearch(query: Readonly<Record<string, unknown>>): Question {
  const filters = [query.filters ?? []].flat().flatMap((f) => String(f).split(',').filter(Boolean));
  const v = checkQuery<{
    q: string;
    filters: ClipFilter[];
    tag: string;
    sort: Question['sort'];
    page: number;
    per: number;
  }>(searchRules, { ...query, filters });
  return { words: v.q, filters: v.filters, tag: v.tag, sort: v.sort, page: v.page, per: v.per };
}

/**
 * Reads how a clip is to be prepared from a query.
 *
 * @throws InputError `query` with the key that is wrong
 */
export function parseMotion(query: Readonly<Record<string, unknown>>): MotionRequest {
  const v = checkQuery<
    {
      character?: string;
      rate?: number;
      speed: number;
      travel: string;
      in?: number;
      out?: number;
      mirror: boolean;
      look?: LookTarget;
      body: string;
      format: 'glb' | 'bvh';
    } & Record<Dial, number>
  >(motionRules, query);
  const travel = (v.travel === 'in-place' ? 'in place' : v.travel) as NonNullable<ClipUse['travel']>;
  return {
    character: v.character ?? null,
    rate: v.rate ?? null,
    use: {
      speed: v.speed,
      travel,
      mirror: v.mirror,
      dials: combinedDials(v, {}),
      look: v.look ? { ...PLAIN_LOOK, at: v.look } : null,
      ...(v.in === undefined ? {} : { in: v.in }),
      ...(v.out === undefined ? {} : { out: v.out }),
    },
    withMesh: v.body === 'with',
    format: v.format,
  };
}

/** Checks the id of a clip in an address. */
export const parseId = (value: unknown): string => checkQuery<{ id: string }>(idRules, { id: value }).id;
