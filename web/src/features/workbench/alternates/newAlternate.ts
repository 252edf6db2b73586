import type { AlternateScope, Edit, Scene } from '@warper/core';
import { alternateInHand, alternatesOf, scopeOfSegments } from '@warper/core';
import { freshId } from '../../../data/freshId';
import { library } from '../../../data/pageLibrary';
import { selectedSegments } from '../../../store/selection';
import type { Selection } from '../../../store/sessionState';
import { freeName } from '../drawer/freeName';

/** What a new alternate may differ in: what is in hand, else what is played over and over; null for the whole scene. */
export function scopeInHand(scene: Scene, selection: Selection): AlternateScope | null {
  const segments = selectedSegments(selection, scene);
  if (segments.length > 0) return scopeOfSegments(scene, segments, library);
  if (selection.kind === 'marker') {
    const region = scene.markers.find((m) => m.id === selection.id);
    return region?.end != null ? { from: region.frame, to: region.end, characters: null } : null;
  }
  if (selection.kind === 'shot') {
    const shot = scene.shots[selection.id];
    return shot ? { from: shot.start, to: shot.end, characters: null } : null;
  }
  return selection.kind === 'scene' && scene.range ? { ...scene.range, characters: null } : null;
}

/** The edit that keeps the scene in hand under a name, and goes on in another alternate. */
export function newAlternate(scene: Scene, selection: Selection): Extract<Edit, { type: 'alternate' }> {
  const taken = alternatesOf(scene).map((a) => a.name);
  const kept = alternateInHand(scene) ? null : { id: freshId('v'), name: 'Alternate 1' };
  const names = kept ? [...taken, kept.name] : taken;
  const count = names.length + 1;
  const name = freeName(`Alternate ${count}`, names);
  return { type: 'alternate', alternate: freshId('v'), name, scope: scopeInHand(scene, selection), kept };
}

/** Whether two scopes are of the same frames and characters. */
export const isSameScope = (a: AlternateScope | null, b: AlternateScope | null): boolean =>
  a === b ||
  (!!a && !!b && a.from === b.from && a.to === b.to && a.characters?.join() === b.characters?.join());

/** What may differ in an alternate, in words. */
export function scopeWords(scope: AlternateScope | null, { characters }: Pick<Scene, 'characters'>): string {
  if (!scope) return 'the whole scene';
  const frames = `frames ${scope.from} to ${scope.to - 1}`;
  if (!scope.characters) return `${frames}, everything`;
  const names = scope.characters.map((id) => characters[id]?.name ?? id);
  return `${frames}, ${names.length > 2 ? `${names.length} characters` : names.join(' and ')}`;
}
