import type { Link, Moment, Plan, Scene } from '@warper/core';
import { frameOfMoment, isSameMoment, keyFrames } from '@warper/core';
import { freshId } from '../../../data/freshId';
import { library } from '../../../data/pageLibrary';

/** A moment that something can wait for, with its frame and what it is called. */
export interface SceneEvent {
  readonly moment: Moment;
  readonly frame: number;
  readonly words: string;
}

/** A moment as the value of a choice. */
export const momentKey = ({ of, id, at }: Moment): string => `${of} ${id} ${at}`;

/** All events of a scene in order of their frames: starts and ends of segments, tethers and regions, markers, keys of layers. */
export function eventsOf(scene: Scene, plan: Plan): SceneEvent[] {
  const events: SceneEvent[] = [];
  const add = (moment: Moment, words: string): void => {
    const frame = frameOfMoment(scene, moment, library);
    if (frame !== null) events.push({ moment, frame, words });
  };
  for (const { character, segments, layers } of plan.characters) {
    for (const { id, name } of [...segments, ...layers.flatMap((l) => l.segments)])
      for (const at of ['start', 'end'] as const)
        add({ of: 'segment', id, at }, `${character.name}: ${name} ${at}s`);
    for (const { id, name } of layers) {
      const lane = scene.lanes[id];
      if (lane?.kind !== 'layer') continue;
      for (const at of keyFrames(lane)) add({ of: 'keys', id, at }, `${character.name}: keys of ${name}`);
    }
  }
  for (const { id, name, child } of Object.values(scene.tethers))
    for (const at of ['start', 'end'] as const)
      add({ of: 'tether', id, at }, `${scene.characters[child]?.name ?? ''}: ${name} ${at}s`);
  for (const { id, name } of scene.markers) {
    add({ of: 'marker', id, at: 'start' }, `Marker ${name}`);
    add({ of: 'marker', id, at: 'end' }, `Region ${name} ends`);
  }
  return events.sort((a, b) => a.frame - b.frame);
}

/** The words for a moment; those of a frame within a segment say how far after its start. */
export function momentWords(moment: Moment, events: readonly SceneEvent[]): string {
  const event = events.find((e) => isSameMoment(e.moment, moment));
  if (event) return event.words;
  if (moment.of !== 'segment' || typeof moment.at !== 'number') return 'something';
  const start = events.find((e) => isSameMoment(e.moment, { ...moment, at: 'start' }));
  return start ? `${start.words.replace(/ starts$/, '')}, frame ${start.frame + moment.at}` : 'something';
}

/** What moves along with something anyway, and so cannot wait for it: what is on its lane, and itself. */
export function laneMates(scene: Scene, of: Linked, id: string): ReadonlySet<string> {
  if (of !== 'segment') return new Set([`${of} ${id}`]);
  const lane = Object.values(scene.lanes).find((l) => l.segments.includes(id));
  return new Set((lane?.segments ?? [id]).map((s) => `segment ${s}`));
}

/** What can be linked. */
export type Linked = Moment['of'];

/** The moment at which something begins; of keys that at which they stand. */
export const startOf = (of: Linked, id: string, at = 0): Moment =>
  of === 'keys' ? { of, id, at } : { of, id, at: 'start' };

/**
 * A link of something to the event nearest to it on other lanes, as far apart as they are, so that nothing moves; null where there is no
 * event.
 */
export function nearestLink(scene: Scene, plan: Plan, follower: Moment): Link | null {
  const frame = frameOfMoment(scene, follower, library);
  if (frame === null) return null;
  const mates = laneMates(scene, follower.of, follower.id);
  let best: SceneEvent | null = null;
  for (const event of eventsOf(scene, plan)) {
    if (mates.has(`${event.moment.of} ${event.moment.id}`)) continue;
    if (!best || Math.abs(event.frame - frame) < Math.abs(best.frame - frame)) best = event;
  }
  return best && { id: freshId('k'), follower, leader: best.moment, offset: frame - best.frame };
}
