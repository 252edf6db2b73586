import type { CharacterPlan, Plan, SeamMeasures } from '@warper/core';
import { framesPerSecond, seamMeasures } from '@warper/core';
import type { Remark } from '../imported';
import type { MotionLibrary } from '../library';
import type { BakeOrder, PlannedFile } from './plannedFiles';
import { BAKE_FORMATS, holdsCameras } from './settings';

/** A number that is to be whole may miss it by this much. */
const ROUNDING = 1e-6;

/** What is odd about a bake before it begins, in plain words. */
export function bakeRemarks(
  plan: Plan,
  order: BakeOrder,
  files: readonly PlannedFile[],
  library: MotionLibrary,
): Remark[] {
  const { settings, spans } = order;
  const cast = plan.characters.filter((c) => order.characters.includes(c.character.id));
  const remarks: Remark[] = [];
  const add = (code: string, message: string): void => void remarks.push({ code, message });
  for (const { character, start, end } of cast) {
    if (end <= start) add('idle', `${character.name} has no segments and keeps the rest pose.`);
    else if (spans.some((s) => s.from < start))
      add('before', `${character.name} holds the first pose up to frame ${start}.`);
    else if (spans.some((s) => s.to > end))
      add('after', `${character.name} holds the last pose from frame ${end} on.`);
  }
  if (cast.length > 1 && (settings.fromOrigin || settings.travel === 'in place')) {
    const why = settings.fromOrigin ? 'begins at the origin' : 'stays in place';
    add('apart', `Each ${why}: they do not stand to each other as in the scene.`);
  }
  const { cameras } = plan.filming;
  const couldHold = BAKE_FORMATS[settings.format].holdsCameras && settings.withCameras;
  if (cameras.length > 0 && couldHold && !holdsCameras(settings))
    add(
      'cameras',
      'The cameras are left out: they fit those alone who travel as in the scene, to their last frame.',
    );
  if (settings.loop !== 'as it is' && files.length > 1)
    add('lengths', 'Files may differ by the frames that are left out at their ends.');
  const rate = settings.rate ?? framesPerSecond(plan.rate);
  const times = rate / framesPerSecond(plan.rate);
  if (
    Math.abs(times - Math.round(times)) > ROUNDING &&
    Math.abs(1 / times - Math.round(1 / times)) > ROUNDING
  )
    add('rate', `At ${Number(rate.toFixed(3))} frames a second most frames fall between those of the scene.`);
  if (BAKE_FORMATS[settings.format].holdsBody && settings.withBody)
    for (const { character } of cast)
      if (library.bodyEntry(character.body)?.body.meshed === false)
        add('no-skin', `${character.name} has no mesh: its bones are written alone.`);
  const open = seamsWithin(plan, cast, order).filter((s) => s.measures.grade !== 'good').length;
  if (open > 0) add('seams', open === 1 ? 'One seam needs a look.' : `${open} seams need a look.`);
  return remarks;
}

/** A seam within what is baked. */
export interface BakedSeam {
  readonly character: CharacterPlan;
  readonly measures: SeamMeasures;
}

/** The measured seams of those who perform, within the spans; a cut at the first frame of a span parts it from what is not baked. */
export const seamsWithin = (
  plan: Plan,
  cast: readonly CharacterPlan[],
  { spans }: Pick<BakeOrder, 'spans'>,
): BakedSeam[] =>
  cast.flatMap((character) =>
    character.segments.slice(1).flatMap((segment, i) => {
      const isCut = segment.overlap === 0 && segment.settle === null;
      const measures = seamMeasures(character, i, framesPerSecond(plan.rate));
      const { frame } = measures;
      const isWithin = spans.some((s) => frame >= s.from + (isCut ? 1 : 0) && frame < s.to);
      return isWithin ? [{ character, measures }] : [];
    }),
  );
