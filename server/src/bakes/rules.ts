import Joi from 'joi';

/** The id of a bake in an address. */
export const bakeIdRules = Joi.object({
  id: Joi.string().guid().required().description('What the list calls it by.'),
});

/** Which part of the list is asked for. */
export const bakeListRules = Joi.object({
  page: Joi.number().integer().min(1).max(1e6).default(1).description('Page, from 1.'),
  per: Joi.number().integer().min(1).max(200).default(50).description('Bakes of a page.'),
});
