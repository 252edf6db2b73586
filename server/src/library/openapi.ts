import { parametersOf } from './parameters';
import { idRules, motionRules, searchRules } from './requests';

const ID = parametersOf(idRules, 'path');
const json = (description: string, schema: object): object => ({
  description,
  content: { 'application/json': { schema } },
});
const ref = (name: string): object => ({ $ref: `#/components/schemas/${name}` });
const refused = json('Refused: what is wrong, where, and what to do.', ref('Error'));
const gone = json('There is none.', ref('Error'));
const binary = {
  'model/gltf-binary': { schema: { type: 'string', format: 'binary' } },
  'text/plain': { schema: { type: 'string' } },
};
const fileResponses = {
  200: { description: 'The file.', content: binary },
  206: { description: 'A part of it.', content: binary },
  304: { description: 'It is what is known already.' },
  404: gone,
  409: json('It has changed since it was measured.', ref('Error')),
  416: { description: 'There is no such part.' },
};
const spans = {
  type: 'array',
  items: { type: 'object', properties: { start: { type: 'integer' }, end: { type: 'integer' } } },
};
const properties = (numbers: readonly string[], more: object): object => ({
  type: 'object',
  properties: { ...Object.fromEntries(numbers.map((n) => [n, { type: 'number' }])), ...more },
});

/** The service of the library as an OpenAPI 3.1 document. */
export const openapi = {
  openapi: '3.1.0',
  info: {
    title: 'Warper library',
    version: '1.0.0',
    description: 'Clips of a folder: searched, measured, and prepared for a character as they are asked for.',
  },
  servers: [{ url: '/api' }],
  paths: {
    '/openapi.json': {
      get: { summary: 'This document.', responses: { 200: json('The document.', { type: 'object' }) } },
    },
    '/library': {
      get: {
        summary: 'How many clips there are, and what could not be read.',
        responses: { 200: json('The state.', ref('State')) },
      },
    },
    '/characters': {
      get: {
        summary: 'The characters that clips can be prepared for.',
        responses: { 200: json('Bodies with a skin.', { type: 'array', items: ref('Body') }) },
      },
    },
    '/clips': {
      get: {
        summary: 'Searches clips.',
        parameters: parametersOf(searchRules, 'query'),
        responses: { 200: json('A page of clips.', ref('Page')), 400: refused },
      },
    },
    '/clips/{id}': {
      get: {
        summary: 'One clip.',
        parameters: ID,
        responses: { 200: json('Its facts.', ref('Clip')), 404: gone },
      },
    },
    '/clips/{id}/preview': {
      get: {
        summary: 'Small figures along a clip, seen from its left side.',
        parameters: ID,
        responses: { 200: json('Lines in millimetres.', ref('Preview')), 404: gone },
      },
    },
    '/clips/{id}/file': {
      get: {
        summary: 'The file that a clip is in, as it came. Strong ETag; ranges.',
        parameters: ID,
        responses: fileResponses,
      },
    },
    '/characters/{id}/file': {
      get: {
        summary: 'The file that a character is in, as it came. Strong ETag; ranges.',
        parameters: ID,
        responses: fileResponses,
      },
    },
    '/clips/{id}/motion': {
      get: {
        summary: 'A clip prepared for use. Strong ETag; ranges.',
        parameters: [...ID, ...parametersOf(motionRules, 'query')],
        responses: {
          200: { description: 'The motion.', content: binary },
          206: { description: 'A part of the file.', content: binary },
          304: { description: 'It is what is known already.' },
          400: refused,
          404: gone,
          409: json('A file of it has changed since it was measured.', ref('Error')),
          416: { description: 'There is no such part.' },
          503: json('Too much to do at once; try again.', ref('Error')),
        },
      },
    },
  },
  components: {
    schemas: {
      State: properties(['clips', 'waiting', 'problemCount'], {
        problems: {
          type: 'array',
          items: { type: 'object', properties: { file: { type: 'string' }, message: { type: 'string' } } },
        },
      }),
      Page: properties(['total', 'page', 'per'], { clips: { type: 'array', items: ref('Clip') } }),
      Clip: properties([], {
        id: { type: 'string' },
        source: { type: 'string' },
        file: { type: 'string' },
        name: { type: 'string' },
        facts: ref('Facts'),
      }),
      Facts: properties(
        ['frames', 'rate', 'seconds', 'travelMetres', 'turnDegrees', 'floatCm', 'meanSpeed'],
        {
          restPose: { type: 'boolean' },
          strideSpeed: { type: ['number', 'null'] },
          leftFoot: spans,
          rightFoot: spans,
          loop: { type: 'object' },
          jumps: { type: 'array' },
        },
      ),
      Preview: properties(['figures', 'lines'], {
        places: { type: 'array', items: { type: 'integer' } },
        floor: { type: 'array', items: { type: 'integer' } },
      }),
      Body: properties(['joints', 'heightMetres'], {
        id: { type: 'string' },
        source: { type: 'string' },
        name: { type: 'string' },
        skinned: { type: 'boolean' },
        signature: { type: 'string' },
      }),
      Error: properties([], {
        error: properties([], {
          code: { type: 'string' },
          message: { type: 'string' },
          place: { type: 'object' },
          hint: { type: 'string' },
        }),
      }),
    },
  },
} as const;
