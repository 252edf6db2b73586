import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Clip } from '../clip/clip';
import { makePoseBuffer } from '../clip/pose';
import { measureSeams } from '../continuity/seamMeasures';
import { measureHolds } from '../continuity/holdMeasures';
import { edit } from '../edit/edit';
import { evaluate } from '../footlock/evaluate';
import { InputError } from '../math/errors';
import { framesPerSecond } from '../math/rate';
import { Memory } from '../memory/memory';
import type { CharacterPlan, Plan } from '../plan/plan';
import type { Scene } from '../scene/scene';
import { PLAIN_CHARACTER } from '../scene/character';
import type { Skeleton } from '../skeleton/skeleton';
import { makeSkeleton } from '../skeleton/skeleton';
import { withSteps } from '../steps/steps';
import { anyEdit, slow, turn, two, walk } from '../testing/arranging';
import { anySetting } from '../testing/settings';
import type { Library } from './compile';
import { compile, createCompiler } from './compile';

const is = <T extends string>(type: T): fc.Arbitrary<T> => fc.constant(type);

/** What can happen to the library while a scene is open. */
type Change = {
  readonly type: 'library';
  readonly what: 'other motion' | 'own steps' | 'other roles' | 'back';
};
const anyChange: fc.Arbitrary<Change> = fc.record({
  type: is('library'),
  what: fc.constantFrom('other motion', 'own steps', 'other roles', 'back'),
});

/** A library whose clips are read anew under the same ids. */
class ChangingLibrary implements Library {
  readonly memory: Memory;
  version = 0;
  private clips: readonly Clip[] = [walk, turn, slow];
  private skeleton: Skeleton = walk.skeleton;

  constructor(memory = new Memory()) {
    this.memory = memory;
  }
  readonly clip = (id: string): Clip | undefined => this.clips.find((c) => c.id === id);
  readonly body = (): Skeleton => this.skeleton;

  change({ what }: Change): void {
    this.version++;
    const mapped = (skeleton: Skeleton): void => {
      this.skeleton = skeleton;
      this.clips = this.clips.map((c) => ({ ...c, skeleton }));
    };
    if (what === 'back') {
      mapped(walk.skeleton);
      this.clips = [walk, turn, slow];
    } else if (what === 'other motion')
      this.clips = this.clips.map((c) =>
        c.id === 'walk' ? { ...c, rotations: c.rotations.slice().fill(0.5) } : c,
      );
    else if (what === 'own steps')
      this.clips = this.clips.map((c) =>
        c.id === 'turn' ? withSteps(c, { rightFoot: [{ start: 3, end: 17 }] }) : c,
      );
    else
      mapped(
        makeSkeleton({ ...walk.skeleton, roles: walk.skeleton.roles.map((r) => (r === 'head' ? null : r)) }),
      );
  }

  /** The same contents, of which nothing is known yet. */
  fresh(): Library {
    return { clip: this.clip, body: this.body, version: 0, memory: new Memory() };
  }
}

const start: Scene = {
  ...two,
  characters: {
    ...two.characters,
    d: { ...PLAIN_CHARACTER, id: 'd', name: 'Visitor', body: 'body', footLock: true },
  },
};

/** Everything that comes of a character's plan, for comparing bit by bit. */
function outcome(plan: CharacterPlan, fps: number): unknown {
  const pose = makePoseBuffer(plan.skeleton);
  const frames: number[] = [];
  for (let f = plan.start - 2; f < plan.end + 3; f += 7) frames.push(f, f + 0.5);
  return {
    span: [plan.start, plan.end],
    poses: frames.map((f) => {
      evaluate(plan, f, pose);
      return [...pose.root, ...pose.translations, ...pose.rotations];
    }),
    seams: measureSeams(plan, fps),
    holds: measureHolds(plan),
  };
}

const outcomes = (plan: Plan): unknown => plan.characters.map((c) => outcome(c, framesPerSecond(plan.rate)));

/** Compiles, or says why not. */
function attempt(work: () => Plan): Plan | string {
  try {
    return work();
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    return error.message;
  }
}

describe('compiling after edits', () => {
  it.each([1, 0.0005])(
    'gives what compiling afresh gives, to the bit, also while the memory forgets (keeps %d)',
    (scale) => {
      let edits = 0;
      fc.assert(
        fc.property(
          fc.array(
            fc.oneof({ weight: 8, arbitrary: anySetting }, { weight: 4, arbitrary: anyEdit }, anyChange),
            {
              minLength: 50,
              maxLength: 50,
            },
          ),
          (changes) => {
            const library = new ChangingLibrary(new Memory(scale));
            const compiler = createCompiler(library);
            let scene = start;
            compiler.compile(scene);
            changes.forEach((change, i) => {
              if (change.type === 'library') library.change(change);
              else {
                try {
                  scene = edit(scene, change, library).scene;
                } catch (error) {
                  if (!(error instanceof InputError)) throw error;
                }
              }
              edits++;
              const kept = attempt(() => compiler.compile(scene));
              // Measured, so that what was measured is taken over as well.
              if (typeof kept !== 'string')
                for (const c of kept.characters) measureSeams(c, framesPerSecond(kept.rate));
              if (i % 5 !== 4) return;
              const fresh = attempt(() => compile(scene, library.fresh()));
              if (typeof kept === 'string' || typeof fresh === 'string') expect(kept).toEqual(fresh);
              else expect(outcomes(kept)).toEqual(outcomes(fresh));
            });
          },
        ),
        // The seed says how to come back to a failure; making fifty edits fewer takes minutes.
        { numRuns: scale === 1 ? 8 : 2, endOnFailure: true },
      );
      expect(edits).toBeGreaterThanOrEqual(100);
    },
  );
});
