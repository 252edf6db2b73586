import type { Draft } from 'immer';
import { defined } from '../math/defined';
import { InputError } from '../math/errors';
import type { Link, Moment } from '../scene/link';
import { findLinkRing, isSameMoment } from '../scene/link';
import type { Scene } from '../scene/scene';
import type { MomentScene } from './momentFrame';
import { frameOfMoment } from './momentFrame';
import { momentName } from './momentName';
import { changeKeys } from './changeKeys';
import { delaySegment, prolongSegment } from './delay';
import { requireLayer } from './lookup';
import type { SceneEditor } from './sceneEditor';
import { snapshot } from './snapshot';

/** How often links are gone through at most: those of a chain settle one after the other. */
const MOST_ROUNDS = 50;

/**
 * Has what waits for events follow them after an edit. What the edit itself has moved, and not what it waits for, keeps its new distance;
 * links whose ends are gone are dropped.
 *
 * @throws InputError `edit` where links wait for each other in a ring
 */
export function followLinks(before: Scene, editor: SceneEditor): void {
  const { scene } = editor;
  pruneLinks(editor);
  if (Object.keys(scene.links).length === 0) return;
  requireNoRing(scene);
  reanchor(before, editor);
  for (let round = 0; round < MOST_ROUNDS; round++) if (!followOnce(editor)) return;
}

/** The frame of a moment in a draft, of which only what the moment names is copied. */
function frameIn({ scene, library }: SceneEditor, moment: Moment): number | null {
  const { of, id } = moment;
  const one = <T extends object>(record: Readonly<Record<string, T>>): Record<string, T> => {
    const entry = record[id];
    return entry ? { [id]: snapshot<T>(entry as Draft<T>) } : {};
  };
  const named: MomentScene = {
    rate: scene.rate,
    segments: of === 'segment' ? one(scene.segments as Scene['segments']) : {},
    tethers: of === 'tether' ? one(scene.tethers as Scene['tethers']) : {},
    lanes: of === 'keys' ? one(scene.lanes as Scene['lanes']) : {},
    markers: of === 'marker' ? snapshot<Scene['markers']>(scene.markers) : [],
  };
  return frameOfMoment(named, moment, library);
}

function pruneLinks({ scene }: SceneEditor): void {
  for (const { id, follower, leader } of Object.values(scene.links)) {
    if (isThere(scene, follower) && isThere(scene, leader)) continue;
    delete scene.links[id];
  }
}

/** Whether what a moment is of is there; it may be switched off. */
const isThere = (scene: SceneEditor['scene'], { of, id }: Pick<Moment, 'of' | 'id'>): boolean =>
  of === 'segment'
    ? scene.segments[id] !== undefined
    : of === 'tether'
      ? scene.tethers[id] !== undefined
      : of === 'keys'
        ? scene.lanes[id] !== undefined
        : scene.markers.some((m) => m.id === id);

function requireNoRing(scene: SceneEditor['scene']): void {
  const ring = findLinkRing({
    links: snapshot<Scene['links']>(scene.links),
    lanes: snapshot<Scene['lanes']>(scene.lanes),
  });
  if (!ring) return;
  const name = (moment: Moment): string => momentName(scene, moment);
  const said = ring.map((l) => `${name(l.follower)} for ${name(l.leader)}`);
  throw new InputError('edit', `These would wait for each other: ${said.join(', ')}.`, {
    place: { path: `links.${ring[0]?.id ?? ''}` },
    hint: 'Remove one of the links first.',
  });
}

/** What was moved by itself, and not what it waits for, keeps the distance that it has now. */
function reanchor(before: Scene, editor: SceneEditor): void {
  const links = Object.values(editor.scene.links);
  const frames = (moment: Moment): readonly [number | null, number | null] => [
    frameOfMoment(before, moment, editor.library),
    frameIn(editor, moment),
  ];
  const hasMoved = (moment: Moment, open: readonly string[]): boolean => {
    const [was, is] = frames(moment);
    if (was !== is) return true;
    // What it waits for itself may have moved, and will take it along.
    return links.some(
      ({ id, follower, leader }) =>
        !open.includes(id) &&
        follower.of === moment.of &&
        follower.id === moment.id &&
        hasMoved(leader, [...open, id]),
    );
  };
  for (const link of links) {
    const previous = before.links[link.id];
    if (!previous || !isSameLink(previous, link)) continue;
    const was = frameOfMoment(before, previous.follower, editor.library);
    const [, led] = frames(link.follower);
    const [leadBefore, lead] = frames(link.leader);
    if (was === null || led === null || led === was || lead === null || leadBefore === null) continue;
    if (!hasMoved(link.leader, [link.id])) link.offset = led - lead;
  }
}

const isSameLink = (a: Link, b: Link): boolean =>
  a.offset === b.offset && isSameMoment(a.leader, b.leader) && a.follower.id === b.follower.id;

/** Moves what is not where it is to be; gives whether anything moved. */
function followOnce(editor: SceneEditor): boolean {
  let moved = false;
  for (const { follower, leader, offset } of Object.values(editor.scene.links)) {
    const [led, lead] = [frameIn(editor, follower), frameIn(editor, leader)];
    if (led === null || lead === null || led === lead + offset) continue;
    moveMoment(editor, follower, lead + offset - led);
    if (frameIn(editor, follower) !== led) moved = true;
  }
  return moved;
}

/** Moves what a moment is of by so many frames. */
function moveMoment(editor: SceneEditor, moment: Moment, by: number): void {
  const { scene } = editor;
  if (moment.of === 'segment') {
    if (moment.at === 'end') prolongSegment(editor, moment.id, by);
    else delaySegment(editor, moment.id, by);
  } else if (moment.of === 'keys') moveKeysOf(scene, moment.id, [moment.at], by);
  else if (moment.of === 'tether') moveTether(scene, moment.id, moment.at, by);
  else
    scene.markers = scene.markers
      .map((m) => {
        if (m.id !== moment.id) return m;
        const end = m.end === null ? null : Math.max(m.frame + 1, m.end + by);
        return moment.at === 'end' ? { ...m, end } : { ...m, frame: m.frame + by, end };
      })
      .sort((a, b) => a.frame - b.frame);
}

function moveTether(scene: SceneEditor['scene'], id: string, edge: 'start' | 'end', by: number): void {
  const tether = defined(scene.tethers[id]);
  if (edge === 'start') tether.start += by;
  if (tether.end !== null) tether.end = Math.max(tether.start + 1, tether.end + by);
}

/** Moves all keys of a layer that stand at some frames, and the ends of links with them. */
export function moveKeysOf(
  scene: SceneEditor['scene'],
  layer: string,
  frames: readonly number[],
  by: number,
): void {
  const moved = new Set(frames);
  changeKeys(requireLayer(scene, layer), (keys) => {
    const taken = new Set(keys.filter((k) => moved.has(k.frame)).map((k) => k.frame + by));
    return keys
      .filter((k) => moved.has(k.frame) || !taken.has(k.frame))
      .map((k) => (moved.has(k.frame) ? { ...k, frame: k.frame + by } : k))
      .sort((a, b) => a.frame - b.frame);
  });
  for (const link of Object.values(scene.links))
    for (const end of [link.follower, link.leader])
      if (end.of === 'keys' && end.id === layer && moved.has(end.at)) end.at += by;
}

/** The ends of links that a cut of a segment gives to its second part. */
export function cutLinks(scene: SceneEditor['scene'], segment: string, at: number, second: string): void {
  for (const link of Object.values(scene.links))
    for (const end of [link.follower, link.leader]) {
      if (end.of !== 'segment' || end.id !== segment || end.at === 'start') continue;
      if (end.at === 'end') end.id = second;
      else if (end.at >= at) {
        end.id = second;
        end.at -= at;
      }
    }
}
