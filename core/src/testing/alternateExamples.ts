import fc from 'fast-check';
import type { Edit } from '../edit/edit';
import type { AlternateScope } from '../scene/alternate';
import { PLAIN_ALTERNATE } from '../scene/alternate';
import type { Scene } from '../scene/scene';
import { versionOf } from '../scene/versions';
import { spans } from './arranging';
import type { Example } from './example';

/** The frames of segment b, which lies at [82,122) between two others with 8 frames of seams, halved. */
const beat: AlternateScope = { from: 86, to: 118, characters: ['c'] };

/** Two alternates: the scene in hand, and one in which segment b plays at half its speed, so that what is behind it comes later. */
export const alternated: Pick<Scene, 'alternates' | 'alternateOrder'> = {
  alternates: {
    plain: { ...PLAIN_ALTERNATE, id: 'plain', name: 'Plain', scope: beat },
    slow: {
      ...PLAIN_ALTERNATE,
      id: 'slow',
      name: 'Slow',
      comment: 'Weighs more.',
      scope: { ...beat, to: 158 },
      differences: [
        { op: 'replace', path: ['segments', 'b', 'speed'], value: 0.5 },
        { op: 'replace', path: ['segments', 'c', 'start'], value: 154 },
      ],
    },
  },
  alternateOrder: ['plain', 'slow'],
};

type OfAlternates = Extract<
  Edit['type'],
  | 'alternate'
  | 'change alternate'
  | 'keep alternate'
  | 'merge alternate'
  | 'order alternate'
  | 'remove alternate'
  | 'swap alternate'
>;

/** The alternate in hand, and the spans of each by its id. */
const seen = (scene: Scene): unknown =>
  scene.alternateOrder.map((id) => {
    const alternate = scene.alternates[id];
    return alternate && `${alternate.differences ? '' : '*'}${id} ${spans(versionOf(scene, alternate))}`;
  });

const plain = 'a[0,90) b[82,122) c[114,174)';
const slow = 'a[0,90) b[82,162) c[154,214)';

/** Examples of edits of alternates. */
export const ALTERNATE_EXAMPLES: { readonly [T in OfAlternates]: Example<T> } = {
  alternate: {
    edit: { alternate: 'third', name: 'Third', scope: null, kept: null },
    name: 'new alternate Third',
    does: seen,
    gives: [`plain ${plain}`, `*third ${plain}`, `slow ${slow}`],
  },
  'change alternate': {
    edit: { alternate: 'slow', values: { name: ' ', comment: 'Too slow.' } },
    name: 'name and comment of Slow',
    does: ({ alternates }) => [alternates.slow?.name, alternates.slow?.comment],
    gives: ['Slow', 'Too slow.'],
  },
  'keep alternate': {
    edit: { alternate: 'slow' },
    name: 'keeping of Slow only',
    does: (s) => [spans(s), s.alternates, s.alternateOrder],
    gives: [slow, {}, []],
  },
  'merge alternate': {
    edit: { alternate: 'slow' },
    name: 'merge of Slow',
    does: (s) => [spans(s), s.alternateOrder],
    gives: [slow, []],
  },
  'order alternate': {
    edit: { alternate: 'slow', to: -1 },
    name: 'place of the alternate Slow',
    does: (s) => s.alternateOrder,
    gives: ['slow', 'plain'],
  },
  'remove alternate': {
    edit: { alternate: 'slow' },
    name: 'removal of Slow',
    does: (s) => [spans(s), s.alternateOrder],
    gives: [plain, []],
  },
  'swap alternate': {
    edit: { alternate: 'slow' },
    name: 'swap to Slow',
    does: seen,
    gives: [`plain ${plain}`, `*slow ${slow}`],
  },
};

const known = fc.constantFrom('plain', 'slow', 'third', 'fourth');
const scope = fc.oneof(
  fc.constant(null),
  fc.record({
    from: fc.integer({ min: -10, max: 100 }),
    to: fc.integer({ min: 101, max: 200 }),
    characters: fc.constantFrom(null, ['c'], ['d'], ['c', 'd']),
  }),
);

/** Any edit of alternates that can be made; what cannot be is refused. */
export const anyAlternateEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.record({
    type: fc.constant('alternate' as const),
    alternate: known,
    name: fc.constantFrom('One', 'Another'),
    scope,
    kept: fc.constantFrom(null, { id: 'plain', name: 'Plain' }),
  }),
  fc.record({
    type: fc.constant('change alternate' as const),
    alternate: known,
    values: fc.record({ name: fc.string(), comment: fc.string(), scope }, { requiredKeys: [] }),
  }),
  fc.record({
    type: fc.constantFrom('swap alternate' as const, 'merge alternate' as const, 'remove alternate' as const),
    alternate: known,
  }),
  fc.record({
    type: fc.constant('order alternate' as const),
    alternate: known,
    to: fc.integer({ min: -2, max: 5 }),
  }),
);
