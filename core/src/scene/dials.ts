import Joi from 'joi';
import { DIALS } from '../clip/dials';

/** The rule of dials: each within its limits, or left out. */
export const dialsSchema = Joi.object(
  Object.fromEntries(
    Object.entries(DIALS).map(([name, { least, most }]) => [name, Joi.number().min(least).max(most)]),
  ),
);
