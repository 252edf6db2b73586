import type { CharacterPlan, ContinuityItem, Grade, Plan, Scene, SeamMeasures } from '@warper/core';
import { defined, framesPerSecond, seamMeasures } from '@warper/core';
import type { BakedFacts } from '../delivery/bakeFile';
import type { PlannedFile } from '../delivery/plannedFiles';
import type { BakeSpan } from '../delivery/settings';

/** A file that was baked, and what is in it. */
export interface ReportedFile {
  readonly name: string;
  readonly characters: readonly string[];
  readonly spans: readonly BakeSpan[];
  readonly facts: BakedFacts;
}

/** A baked file as a report tells it. */
export const reportedFile = ({ name, characters, spans }: PlannedFile, facts: BakedFacts): ReportedFile => ({
  name,
  characters: characters.map((c) => c.character.name),
  spans,
  facts,
});

/** A seam as a report tells it. */
export interface ReportedSeam extends SeamMeasures {
  /** Its worst measure by its limit: 1 is just at it. */
  readonly ratio: number;
  readonly out: string;
  readonly in: string;
}

export interface ReportedCharacter {
  readonly name: string;
  readonly start: number;
  readonly end: number;
  readonly segments: readonly { readonly name: string; readonly start: number; readonly end: number }[];
  readonly seams: readonly ReportedSeam[];
}

/** What was measured of a bake: the content of a report, as it is kept as JSON. */
export interface BakeReport {
  readonly format: 'warper-report';
  readonly version: 1;
  readonly scene: string;
  /** Frames a second. */
  readonly rate: number;
  readonly shotSize: Scene['shotSize'];
  readonly files: readonly ReportedFile[];
  readonly characters: readonly ReportedCharacter[];
  /** How many things have which grade. */
  readonly grades: Readonly<Record<Grade, number>>;
  /** Everything that was measured of those who perform, within the spans, worst first. */
  readonly items: readonly (ContinuityItem & { readonly ignored: string | null })[];
}

/**
 * Makes the report of a bake.
 *
 * @param items everything that is measured in the scene (`continuityReport`)
 */
export function bakeReport(
  scene: Scene,
  plan: Plan,
  items: readonly ContinuityItem[],
  files: readonly ReportedFile[],
): BakeReport {
  const names = new Set(files.flatMap((f) => f.characters));
  const spans = files.flatMap((f) => f.spans);
  const isWithin = (from: number, to: number): boolean => spans.some((s) => from < s.to && to > s.from);
  const cast = plan.characters.filter((c) => names.has(c.character.name));
  const rate = framesPerSecond(plan.rate);
  const own = items
    .filter(
      (item) => names.has(item.characterName) && isWithin(item.frame, Math.max(item.end, item.frame + 1)),
    )
    .map((item) => ({ ...item, ignored: scene.ignored[item.id] ?? null }));
  const grades = { good: 0, watch: 0, bad: 0 };
  for (const item of own) grades[item.grade]++;
  return {
    format: 'warper-report',
    version: 1,
    scene: scene.name,
    rate,
    shotSize: scene.shotSize,
    files,
    characters: cast.map((c) => reportedCharacter(c, rate, isWithin)),
    grades,
    items: own,
  };
}

function reportedCharacter(
  plan: CharacterPlan,
  rate: number,
  isWithin: (from: number, to: number) => boolean,
): ReportedCharacter {
  const { character, start, end, segments, thresholds } = plan;
  return {
    name: character.name,
    start,
    end,
    segments: segments.map(({ name, start: from, end: to }) => ({ name, start: from, end: to })),
    seams: segments.slice(1).flatMap((segment, i): ReportedSeam[] => {
      const measures = seamMeasures(plan, i, rate);
      if (!isWithin(measures.frame, measures.frame + 1)) return [];
      const ratio = measures[measures.worst] / thresholds[measures.worst].watch;
      return [{ ...measures, ratio, out: defined(segments[i]).name, in: segment.name }];
    }),
  };
}
