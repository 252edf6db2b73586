import type { Patch } from 'immer';
import { applyPatches, enablePatches, produceWithPatches } from 'immer';
import Joi from 'joi';
import { InputError } from '../math/errors';
import type { Difference } from '../scene/differences';
import { differences } from '../scene/differences';
import type { Scene } from '../scene/scene';
import type { ClipSource } from '../timeline/lane';
import { followAlternates } from './alternates/followAlternates';
import type { EditKind, EditOf } from './defineEdit';
import { addCharacter } from './edits/addCharacter';
import { addLayer } from './edits/addLayer';
import { alternate } from './edits/alternate';
import { changeAlternate } from './edits/changeAlternate';
import { keepAlternate } from './edits/keepAlternate';
import { mergeAlternate } from './edits/mergeAlternate';
import { orderAlternate } from './edits/orderAlternate';
import { removeAlternate } from './edits/removeAlternate';
import { swapAlternate } from './edits/swapAlternate';
import { aspect } from './edits/aspect';
import { camera } from './edits/camera';
import { cameraKey } from './edits/cameraKey';
import { changeCamera } from './edits/changeCamera';
import { changeShot } from './edits/changeShot';
import { moveCameraKeys } from './edits/moveCameraKeys';
import { orderShot } from './edits/orderShot';
import { removeCamera } from './edits/removeCamera';
import { removeShot } from './edits/removeShot';
import { shot } from './edits/shot';
import { changeSound } from './edits/changeSound';
import { line } from './edits/line';
import { orderSoundLane } from './edits/orderSoundLane';
import { removeLine } from './edits/removeLine';
import { removeSound } from './edits/removeSound';
import { removeSoundLane } from './edits/removeSoundLane';
import { sound } from './edits/sound';
import { soundLane } from './edits/soundLane';
import { change } from './edits/change';
import { changeCharacter } from './edits/changeCharacter';
import { changeGroup } from './edits/changeGroup';
import { changeLane } from './edits/changeLane';
import { changeLayer } from './edits/changeLayer';
import { changeProp } from './edits/changeProp';
import { changeTether } from './edits/changeTether';
import { cut } from './edits/cut';
import { duplicate } from './edits/duplicate';
import { footLock } from './edits/footLock';
import { freeze } from './edits/freeze';
import { group } from './edits/group';
import { ignore } from './edits/ignore';
import { join } from './edits/join';
import { link } from './edits/link';
import { judge } from './edits/judge';
import { key } from './edits/key';
import { layerKeys } from './edits/layerKeys';
import { moveKeys, removeKeys } from './edits/moveKeys';
import { dialKey } from './edits/dialKey';
import { rootKey } from './edits/rootKey';
import { limits } from './edits/limits';
import { leadIn } from './edits/leadIn';
import { marker } from './edits/marker';
import { match } from './edits/match';
import { move } from './edits/move';
import { moveSeveral } from './edits/moveSeveral';
import { meet } from './edits/meet';
import { orderCharacter } from './edits/orderCharacter';
import { overlap } from './edits/overlap';
import { pairLayers } from './edits/pairLayers';
import { paste } from './edits/paste';
import { pickJoint } from './edits/pickJoint';
import { place } from './edits/place';
import { raiseLayer } from './edits/raiseLayer';
import { range } from './edits/range';
import { rate } from './edits/rate';
import { remove } from './edits/remove';
import { removeCharacter } from './edits/removeCharacter';
import { removeLayer } from './edits/removeLayer';
import { removeLink } from './edits/removeLink';
import { removeMarker } from './edits/removeMarker';
import { removeTether } from './edits/removeTether';
import { renameScene } from './edits/renameScene';
import { reorder } from './edits/reorder';
import { repeat } from './edits/repeat';
import { replace } from './edits/replace';
import { seam } from './edits/seam';
import { shiftSeam } from './edits/shiftSeam';
import { slip } from './edits/slip';
import { startCharacter } from './edits/startCharacter';
import { steps } from './edits/steps';
import { stretch } from './edits/stretch';
import { swap } from './edits/swap';
import { switchOff } from './edits/switchOff';
import { tether } from './edits/tether';
import { trim } from './edits/trim';
import { ungroup } from './edits/ungroup';
import { wait } from './edits/wait';
import { widenSeam } from './edits/widenSeam';
import { pruneGroups } from './groups';
import { followLinks } from './links';
import { followPairs } from './pairs';
import { reconcile } from './reconcile';
import { SceneEditor } from './sceneEditor';

/** All kinds of edits but the one that holds others. */
const KINDS = [
  alternate,
  changeAlternate,
  keepAlternate,
  mergeAlternate,
  orderAlternate,
  removeAlternate,
  swapAlternate,
  aspect,
  camera,
  cameraKey,
  changeCamera,
  changeShot,
  moveCameraKeys,
  orderShot,
  removeCamera,
  removeShot,
  shot,
  changeSound,
  line,
  orderSoundLane,
  removeLine,
  removeSound,
  removeSoundLane,
  sound,
  soundLane,
  addCharacter,
  addLayer,
  change,
  changeCharacter,
  changeGroup,
  changeLane,
  changeLayer,
  changeProp,
  changeTether,
  cut,
  duplicate,
  footLock,
  freeze,
  group,
  ignore,
  join,
  judge,
  key,
  rootKey,
  dialKey,
  layerKeys,
  moveKeys,
  removeKeys,
  leadIn,
  limits,
  link,
  marker,
  match,
  meet,
  move,
  moveSeveral,
  orderCharacter,
  overlap,
  pairLayers,
  paste,
  pickJoint,
  place,
  raiseLayer,
  range,
  rate,
  remove,
  removeCharacter,
  removeLayer,
  removeLink,
  removeMarker,
  removeTether,
  renameScene,
  reorder,
  repeat,
  replace,
  seam,
  shiftSeam,
  slip,
  startCharacter,
  steps,
  stretch,
  swap,
  switchOff,
  tether,
  trim,
  ungroup,
  wait,
  widenSeam,
] as const;

/** Several edits that are one: done, named and taken back together. */
export interface Several {
  readonly type: 'several';
  readonly label: string;
  readonly edits: readonly Edit[];
}

/** What can be done to a scene. Every edit is a plain value, so that it can be named, stored and tested. */
export type Edit = EditOf<(typeof KINDS)[number]> | Several;

type Kind = EditKind<Edit>;

/** A kind of edit with its rule. */
interface KnownKind extends Kind {
  readonly rule: Joi.Schema;
}

const KIND_OF: ReadonlyMap<string, KnownKind> = new Map(
  (KINDS as unknown as readonly Kind[]).map((kind) => {
    const rule = Joi.object({ type: Joi.valid(kind.type), ...(kind.schema as Record<string, Joi.Schema>) });
    return [kind.type, { ...kind, rule }];
  }),
);

enablePatches();

/** A scene after an edit, and the differences that lead there and back. */
export interface Edited {
  readonly scene: Scene;
  readonly patches: readonly Patch[];
  readonly inverse: readonly Patch[];
}

/** The scene after an edit; see `edit`. */
export const applyEdit = (scene: Scene, change: Edit, library: ClipSource, options?: EditOptions): Scene =>
  edit(scene, change, library, options).scene;

/** The scene after recorded differences, as undo and redo replay them. */
export const applyDifferences = (scene: Scene, patches: readonly Patch[]): Scene =>
  applyPatches(scene, patches as Patch[]);

/**
 * Carries out an edit. What cannot be (two overlaps on one spot, a negative length) becomes the nearest that can. An edit that
 * changes nothing gives the very scene, and no differences.
 *
 * @throws InputError `edit` where it names something that the scene does not have, or a value cannot be; of one of several edits
 *   with a path that begins with `edits.N`
 */
export function edit(
  scene: Scene,
  change: Edit,
  library: ClipSource,
  { alternates = 'by place' }: EditOptions = {},
): Edited {
  if (change.type === 'several' && change.edits.some(isOfAlternates))
    return inTurn(scene, change.edits, (before, part) => edit(before, part, library, { alternates }));
  const edited = editOne(scene, change, library);
  if (alternates === 'left' || scene.alternateOrder.length === 0) return edited;
  return edited.scene === scene || isOfAlternates(change)
    ? edited
    : withFollowers(scene, edited, change, library, alternates === 'all');
}

/** In which alternates of the scene an edit is carried out beside the one in hand. */
export interface EditOptions {
  /** Those that share what it is about; all of them; or they are left as they are, and do not fit what is then only shown. */
  readonly alternates?: 'by place' | 'all' | 'left';
}

/** An edit with what it does in the other alternates. */
function withFollowers(
  before: Scene,
  { scene, patches, inverse }: Edited,
  change: Edit,
  library: ClipSource,
  everywhere: boolean,
): Edited {
  const carryOut = (version: Scene, part: Edit): Scene => editOne(version, part, library).scene;
  const after = followAlternates(before, scene, change, { library, carryOut, everywhere });
  const alternates = reconcile(before.alternates, after);
  if (alternates === before.alternates) return { scene, patches, inverse };
  const at = ({ op, path, value }: Difference): Patch => ({
    op,
    path: ['alternates', ...path],
    ...(op === 'remove' ? {} : { value }),
  });
  return {
    scene: { ...scene, alternates },
    patches: [...patches, ...differences(before.alternates, alternates).map(at)],
    inverse: [...inverse, ...differences(alternates, before.alternates).map(at)],
  };
}

/** Edits one after the other, as one. */
function inTurn(scene: Scene, edits: readonly Edit[], one: (before: Scene, part: Edit) => Edited): Edited {
  let all: Edited = { scene, patches: [], inverse: [] };
  edits.forEach((part, i) =>
    inPart(i, () => {
      const next = one(all.scene, part);
      all = {
        scene: next.scene,
        patches: [...all.patches, ...next.patches],
        inverse: [...next.inverse, ...all.inverse],
      };
    }),
  );
  return all;
}

/** Whether an edit is about alternates themselves. */
export const isOfAlternates = (change: Edit): boolean =>
  change.type === 'several' ? change.edits.some(isOfAlternates) : (kindOf(change).ofAlternates ?? false);

/** An edit of the scene in hand alone. */
function editOne(scene: Scene, change: Edit, library: ClipSource): Edited {
  const [next, patches, inverse] = produceWithPatches(scene, (draft) => {
    const editor = new SceneEditor(draft, library);
    carryOut(editor, change);
    // What an alternate is, it is: nothing in it waits to be moved along.
    if (isOfAlternates(change)) return;
    if (hasLinks(draft)) followLinks(scene, editor);
    if (hasPairs(scene)) followPairs(scene, draft, library);
    if (Object.keys(scene.groups).length > 0) pruneGroups(draft);
  });
  const settled = reconcile(scene, next);
  if (settled === scene) return { scene, patches: [], inverse: [] };
  if (!passesLocks(change) && !isOfAlternates(change)) checkLocks(scene, settled);
  return { scene: settled, patches, inverse };
}

const hasLinks = ({ links }: Pick<Scene, 'links'>): boolean => Object.keys(links).length > 0;

const hasPairs = (scene: Scene): boolean =>
  Object.values(scene.lanes).some((lane) => lane.kind === 'layer' && lane.pair !== null);

/** What an edit is called in "Undo ...". */
export const describeEdit = (change: Edit, scene: Scene): string =>
  change.type === 'several' ? change.label : kindOf(change).describe(change, scene);

function kindOf(change: Edit): KnownKind {
  const kind = KIND_OF.get(change.type);
  if (!kind) throw new InputError('edit', `There is no edit "${change.type}".`);
  return kind;
}

function carryOut(editor: SceneEditor, change: Edit): void {
  if (change.type === 'several') {
    change.edits.forEach((part, i) => inPart(i, () => carryOut(editor, part)));
    return;
  }
  const kind = kindOf(change);
  const { error } = kind.rule.validate(change, { convert: false, abortEarly: true });
  if (error) {
    throw new InputError('edit', `That cannot be: ${error.message.replaceAll('"', '')}.`, {
      place: { path: error.details[0]?.path.join('.') ?? '' },
      hint: 'Nothing was changed.',
    });
  }
  kind.apply(editor, change);
}

/** Says of what goes wrong in one of several edits in which. */
function inPart(index: number, work: () => void): void {
  try {
    work();
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    const { code, message, hint, cause, place } = error;
    const path = ['edits', index, ...(place.path ? [place.path] : [])].join('.');
    throw new InputError(code, message, { place: { ...place, path }, hint, cause });
  }
}

const passesLocks = (change: Edit): boolean =>
  change.type !== 'several' && (kindOf(change).passesLocks ?? false);

/** Locked lanes keep their segments as they are. */
function checkLocks(before: Scene, after: Scene): void {
  for (const lane of Object.values(before.lanes)) {
    if (!lane.locked) continue;
    const current = after.lanes[lane.id];
    const same =
      current?.segments === lane.segments &&
      lane.segments.every((s) => before.segments[s] === after.segments[s]);
    if (same) continue;
    const name = before.characters[lane.character]?.name ?? '';
    throw new InputError('locked', `The lane ${lane.kind === 'layer' ? lane.name : name} is locked.`, {
      place: { path: `lanes.${lane.id}` },
      hint: 'Unlock it at the head of the lane.',
    });
  }
}
