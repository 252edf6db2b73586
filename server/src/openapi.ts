import { BAKE_FORMATS } from '@warper/formats';
import { bakeRules } from './bakes/asks';
import { bakeIdRules, bakeListRules } from './bakes/rules';
import { idRules, motionRules, searchRules } from './library/requests';
import { parametersOf } from './parameters';

const ID = parametersOf(idRules, 'path');
const BAKE_ID = parametersOf(bakeIdRules, 'path');
const FILE_NAME = {
  name: 'name',
  in: 'path',
  description: 'Name of the file, as the bake lists it.',
  required: true,
  schema: { type: 'string' },
};
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
/** What is answered where a file is asked for, or a part of it. */
const fileResponses = (content: object, conflict: string) => ({
  200: { description: 'The file.', content },
  206: { description: 'A part of it.', content },
  304: { description: 'It is what is known already.' },
  404: gone,
  409: json(conflict, ref('Error')),
  416: { description: 'There is no such part.' },
});
const CHANGED = 'It has changed since it was measured.';
const spans = {
  type: 'array',
  items: { type: 'object', properties: { start: { type: 'integer' }, end: { type: 'integer' } } },
};
const sceneFile = { schema: { type: 'string', format: 'binary' } };
const bakedFile = Object.fromEntries(
  Object.values(BAKE_FORMATS).map(({ type }) => [type, { schema: { type: 'string', format: 'binary' } }]),
);
const noQueue = json('The queue is full, or away; try again.', ref('Error'));
const properties = (numbers: readonly string[], more: object): object => ({
  type: 'object',
  properties: { ...Object.fromEntries(numbers.map((n) => [n, { type: 'number' }])), ...more },
});

/** The service as an OpenAPI 3.1 document. */
export const openapi = {
  openapi: '3.1.0',
  info: {
    title: 'Warper',
    version: '1.1.0',
    description:
      'Clips of a folder: searched, measured, and prepared for a character as they are asked for. Scenes: baked as jobs.',
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
        responses: fileResponses(binary, CHANGED),
      },
    },
    '/characters/{id}/file': {
      get: {
        summary: 'The file that a character is in, as it came. Strong ETag; ranges.',
        parameters: ID,
        responses: fileResponses(binary, CHANGED),
      },
    },
    '/clips/{id}/motion': {
      get: {
        summary: 'A clip prepared for use. Strong ETag; ranges.',
        parameters: [...ID, ...parametersOf(motionRules, 'query')],
        responses: {
          ...fileResponses(binary, 'A file of it has changed since it was measured.'),
          400: refused,
          503: json('Too much to do at once; try again.', ref('Error')),
        },
      },
    },
    '/bakes': {
      get: {
        summary: 'Bakes, the newest first.',
        parameters: parametersOf(bakeListRules, 'query'),
        responses: { 200: json('A page of bakes.', ref('BakePage')), 400: refused, 503: noQueue },
      },
      post: {
        summary: 'Asks for a scene file to be baked.',
        parameters: parametersOf(bakeRules, 'query'),
        requestBody: {
          required: true,
          content: { 'application/zip': sceneFile, 'application/octet-stream': sceneFile },
        },
        responses: {
          201: json('It waits its turn; Location is its address.', ref('Bake')),
          400: refused,
          413: json('The scene file is too large.', ref('Error')),
          415: json('This is no scene file.', ref('Error')),
          503: noQueue,
        },
      },
    },
    '/bakes/{id}': {
      get: {
        summary: 'One bake: how far it is, what it has made, or what is wrong.',
        parameters: BAKE_ID,
        responses: { 200: json('Its state.', ref('Bake')), 404: gone, 503: noQueue },
      },
      delete: {
        summary: 'Breaks a bake off, or removes what it has made.',
        parameters: BAKE_ID,
        responses: { 204: { description: 'Nothing of it is left.' }, 404: gone, 503: noQueue },
      },
    },
    '/bakes/{id}/events': {
      get: {
        summary: 'How far a bake is, until it has ended: events "bake" with its state, or "removed".',
        parameters: BAKE_ID,
        responses: {
          200: {
            description: 'Server-sent events.',
            content: { 'text/event-stream': { schema: { type: 'string' } } },
          },
          404: gone,
          503: noQueue,
        },
      },
    },
    '/bakes/{id}/files/{name}': {
      get: {
        summary: 'A file that a bake has made. Strong ETag; ranges.',
        parameters: [...BAKE_ID, FILE_NAME],
        responses: { ...fileResponses(bakedFile, 'The bake is not done yet.'), 503: noQueue },
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
      Body: properties(['joints', 'heightMetres', 'legs'], {
        id: { type: 'string' },
        source: { type: 'string' },
        name: { type: 'string' },
        skinned: { type: 'boolean' },
        signature: { type: 'string' },
      }),
      BakePage: properties(['total'], { bakes: { type: 'array', items: ref('Bake') } }),
      Bake: properties(['share'], {
        id: { type: 'string' },
        state: { enum: ['waiting', 'running', 'done', 'failed'] },
        created: { type: 'string', format: 'date-time' },
        files: { type: 'array', items: ref('BakedFile') },
        error: { oneOf: [{ type: 'null' }, { type: 'object' }] },
      }),
      BakedFile: properties(['rate', 'joints', 'bytes'], {
        name: { type: 'string' },
        type: { type: 'string' },
        characters: { type: 'array', items: { type: 'string' } },
        frames: { type: 'array', items: { type: 'integer' } },
        sha256: { type: 'string' },
        reduced: { oneOf: [{ type: 'null' }, { type: 'object' }] },
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
