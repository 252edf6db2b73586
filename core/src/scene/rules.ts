import { defined } from '../math/defined';
import Joi from 'joi';

/** Rules that several entities of the document share. */

export const ID = /^[\w.:#@~-]{1,200}$/;
export const id = Joi.string().pattern(ID);

const fails = (helpers: Joi.CustomHelpers, message: string): Joi.ErrorReport =>
  helpers.error('any.custom', { error: new Error(message) });

/** A list of ids, each once; Joi's own check compares every pair. */
export const ids = Joi.array()
  .items(id)
  .max(100_000)
  .custom((list: string[], helpers) =>
    new Set(list).size === list.length ? list : fails(helpers, 'an id comes twice'),
  );
export const text = Joi.string().min(1).max(200);
export const finite = Joi.number().min(-1e9).max(1e9);
export const frame = Joi.number().integer().min(-1e7).max(1e7);
/** A number of frames or samples, 0 included. */
export const count = Joi.number().integer().min(0).max(1e6);
export const weight = Joi.number().min(0).max(1);
export const rate = Joi.alternatives(Joi.number().greater(0).max(10_000), Joi.string().max(40));
export const yes = Joi.boolean();

/** Entries by id. */
export const record = (schema: Joi.Schema): Joi.Schema => Joi.object().pattern(id, schema);

/** A place on the floor, metres and degrees. */
export const place = Joi.object({ x: finite.required(), z: finite.required(), heading: finite.required() });

/** Points of a curve, whose order is not looked at. */
export const points = Joi.array()
  .items(Joi.array().ordered(Joi.number().greater(0).less(1).required(), weight.required()))
  .max(100);

/** Points of a curve from (0, 0) to (1, 1): places grow, values never fall. */
export const handles = points.custom((list: [number, number][], helpers) =>
  list.every((p, i) => i === 0 || (p[0] > defined(list[i - 1])[0] && p[1] >= defined(list[i - 1])[1]))
    ? list
    : fails(helpers, 'its points do not rise'),
);

/** A list whose entries come in order of their frames. */
export const byFrame = (list: Joi.ArraySchema, what: string): Joi.ArraySchema =>
  list.custom((entries: { frame: number }[], helpers) =>
    entries.every((m, i) => i === 0 || m.frame > defined(entries[i - 1]).frame)
      ? entries
      : fails(helpers, `${what} are not in order of frames`),
  );

/** Frames at `factor` times as many a second. */
export const scaledFrames = (frames: number, factor: number): number => Math.round(frames * factor);
