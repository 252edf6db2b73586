import type { CharacterPlan, ContinuityItem, SeamMeasures } from '@warper/core';
import {
  LARGE_CORRECTION_CM,
  bake,
  continuityReport,
  framesPerSecond,
  lineCrossings,
  measureHolds,
  measureSeams,
  measureSteps,
  seamWithLayers,
} from '@warper/core';
import type { Opened } from './open';

/** Largest values that are allowed; undefined allows any. */
export interface Limits {
  readonly maxPop?: number;
  readonly maxSlide?: number;
  readonly maxTurn?: number;
  readonly maxHitch?: number;
}

/** The document that `check --json` prints, and whether a limit was passed. */
export function check(opened: Opened, limits: Limits): { report: CheckReport; passed: string[] } {
  const { plan } = opened;
  const rate = framesPerSecond(plan.rate);
  const characters = plan.characters.map((c) => ({
    name: c.character.name,
    start: c.start,
    end: c.end,
    segments: c.segments.map((s) => ({
      clip: s.name,
      start: s.start,
      end: s.end,
      in: s.in,
      out: s.out,
      repeat: s.settings.repeat,
      speed: s.speed,
      period: s.period,
    })),
    seams: measureSeams(c, rate).map((seam) => ({ ...seam, withLayers: withLayers(c, seam.index, rate) })),
    steps: stepsOf(c, opened),
    holds: measureHolds(c),
  }));
  const passed: string[] = [];
  for (const c of characters) {
    const see = (what: string, value: number, limit: number | undefined, unit: string): void => {
      if (limit !== undefined && value > limit)
        passed.push(`${c.name}: ${what} ${value.toFixed(2)} ${unit}, allowed ${limit}`);
    };
    for (const s of c.seams) {
      see(`the seam at frame ${s.frame} pops`, s.popCm, limits.maxPop, 'cm');
      see(`the seam at frame ${s.frame} slides`, s.slideCm, limits.maxSlide, 'cm');
      see(`the seam at frame ${s.frame} hitches`, s.hitch, limits.maxHitch, 'times its sources');
      see(`the seam at frame ${s.frame} turns`, s.turnDegrees, limits.maxTurn, 'degrees');
    }
    for (const s of c.steps)
      see(`${s.joint} slides in frames ${s.start} to ${s.end}`, s.slideCm, limits.maxSlide, 'cm');
  }
  return {
    report: {
      rate: opened.scene.rate,
      characters,
      shots: shotsOf(opened),
      continuity: continuityReport(plan),
    },
    passed,
  };
}

/** See `check`. */
export interface CheckReport {
  readonly rate: number | string;
  /** In order; `crosses` names those whose line the cut to a shot crosses. */
  readonly shots: readonly {
    readonly name: string;
    readonly camera: string;
    readonly start: number;
    readonly end: number;
    readonly blend: number;
    readonly crosses: readonly (readonly [string, string])[];
  }[];
  /** What needs a look, and what is good, worst first, each with its cause and what can be done. */
  readonly continuity: readonly ContinuityItem[];
  readonly characters: readonly {
    readonly name: string;
    readonly start: number;
    readonly end: number;
    readonly segments: readonly { readonly clip: string; readonly start: number; readonly end: number }[];
    readonly seams: readonly CheckedSeam[];
    readonly steps: ReturnType<typeof measureSteps>;
    /** Held feet; none unless feet are held. */
    readonly holds: ReturnType<typeof measureHolds>;
  }[];
}

/** A seam as it is below all layers, and what it measures with them; null where none does anything there. */
type CheckedSeam = SeamMeasures & { readonly withLayers: SeamFigures | null };

type SeamFigures = Pick<
  SeamMeasures,
  'popCm' | 'surgeCm' | 'turnDegrees' | 'slideCm' | 'hitch' | 'worstJoint' | 'grade'
>;

function withLayers(c: CharacterPlan, index: number, rate: number): SeamFigures | null {
  const seam = seamWithLayers(c, index, rate);
  if (!seam) return null;
  const { popCm, surgeCm, turnDegrees, slideCm, hitch, worstJoint, grade } = seam;
  return { popCm, surgeCm, turnDegrees, slideCm, hitch, worstJoint, grade };
}

const stepsOf = (c: CharacterPlan, { plan }: Opened): ReturnType<typeof measureSteps> =>
  c.segments.length > 0 ? measureSteps(bake({ ...c, staging: null }, plan.rate), c.start) : [];

function shotsOf({ plan, scene }: Opened): CheckReport['shots'] {
  const crossings = lineCrossings(plan);
  const nameOf = (id: string): string => scene.characters[id]?.name ?? '';
  return plan.filming.shots.map(({ id, name, camera, start, end, blend }) => ({
    name,
    camera: scene.cameras[camera]?.name ?? '',
    start,
    end,
    blend,
    crosses: crossings
      .filter((c) => c.shot === id)
      .map(({ between: [a, b] }) => [nameOf(a), nameOf(b)] as const),
  }));
}

/** The same for people. */
export function describeCheck(report: CheckReport): string {
  const open = report.continuity.filter((i) => i.grade !== 'good');
  const worst = open.map(
    (i) => `  ${i.grade}: ${i.name} (${i.characterName}, frame ${i.frame}): ${i.cause}. ${i.hint}`,
  );
  const shots = report.shots.map(
    (s) =>
      `  [${s.start}, ${s.end})  ${s.name}: ${s.camera}${s.blend > 0 ? `, blend of ${s.blend}` : ''}${s.crosses.map(([a, b]) => `; crosses the line between ${a} and ${b}`).join('')}`,
  );
  const characters = report.characters.flatMap((c) => [
    `${c.name}: frames ${c.start} to ${c.end}`,
    ...c.segments.map((s) => `  [${s.start}, ${s.end})  ${s.clip}`),
    ...c.seams.map(
      (s) =>
        `  seam at ${s.frame}: ${s.kind}${s.overlap ? ` of ${s.overlap}` : ''}, ${s.grade}: pop ${s.popCm.toFixed(2)} cm, surge ${s.surgeCm.toFixed(2)} cm, turn ${s.turnDegrees.toFixed(1)} degrees, slide ${s.slideCm.toFixed(2)} cm, hitch ${s.hitch.toFixed(2)}`,
    ),
    ...c.holds
      .filter((h) => h.held < 1 || h.correctionCm > LARGE_CORRECTION_CM || h.leftCm > 0.1)
      .map((h) =>
        h.held < 1
          ? `  ${h.joint} let go in [${h.start}, ${h.end}): it would have to be moved by ${h.correctionCm.toFixed(1)} cm; make a step there`
          : `  ${h.joint} held in [${h.start}, ${h.end}): moved by ${h.correctionCm.toFixed(1)} cm, ${h.leftCm.toFixed(1)} cm left`,
      ),
  ]);
  return [
    ...characters,
    ...(shots.length > 0 ? ['Shots:', ...shots] : []),
    ...(worst.length > 0 ? ['Needs a look, worst first:', ...worst] : []),
  ].join('\n');
}
