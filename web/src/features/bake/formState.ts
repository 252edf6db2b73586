import type { CharacterPlan, Plan, Scene } from '@warper/core';
import type { BakeOrder, BakeSettings } from '@warper/formats';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import type { KeptBakes } from '../../data/bakePresets';
import { keepBakes, keptBakes } from '../../data/bakePresets';
import type { FilmSettings } from '../../data/keptFilm';
import { keepFilm, keptFilm } from '../../data/keptFilm';
import { useAppSelector } from '../../store/store';
import type { OwnFrames, Part } from './spans';
import { offeredParts, partOf } from './spans';

/** What the form of the bake page is about: the scene, and who performs in it. */
export interface FormProps {
  readonly scene: Scene;
  readonly plan: Plan;
  readonly performing: readonly CharacterPlan[];
}

/** How bakes are set, kept from visit to visit. */
export function useSettings() {
  const [kept, setKept] = useState(keptBakes);
  const keep = (values: Partial<KeptBakes>): void => {
    const next = { ...kept, ...values };
    setKept(next);
    keepBakes(next);
  };
  const set = (values: Partial<BakeSettings>): void => keep({ last: { ...kept.last, ...values } });
  return { settings: kept.last, presets: kept.presets, set, keep };
}

/** Who and which part is baked; at first everybody, and what is selected in the workbench where that is segments. */
export function useOrder({ scene, plan, performing }: FormProps, settings: BakeSettings) {
  const selection = useAppSelector((s) => s.session.selection);
  const [chosen, setChosen] = useState<readonly string[]>(() => performing.map((c) => c.character.id));
  // Whoever comes from elsewhere may have said which part it is about.
  const [asked] = useSearchParams();
  const [part, setPart] = useState<Part>(asked.get('part') === 'regions' ? 'regions' : 'scene');
  const [frames, setOwn] = useState<OwnFrames | null>(null);
  const parts = offeredParts(scene, plan, chosen, selection, frames);
  const current = partOf(parts, part);
  const order: BakeOrder = { name: scene.name, characters: chosen, spans: current.spans, settings };
  /** The same order of another version of the scene, whose parts may be elsewhere. */
  const orderOf = (name: string, version: Scene, versionPlan: Plan): BakeOrder => {
    const own = chosen.filter((id) => versionPlan.characters.some((c) => c.character.id === id));
    const { spans } = partOf(offeredParts(version, versionPlan, own, selection, frames), part);
    return { name, characters: own, spans, settings };
  };
  const setFrames = (next: OwnFrames): void => {
    setOwn(next);
    setPart('frames');
  };
  const choosePart = (next: Part): void => {
    setPart(next);
    const { characters } = partOf(parts, next);
    if (characters) setChosen(characters);
  };
  return { order, orderOf, parts, current, chosen, setChosen, choosePart, setFrames };
}

/** How films are set, kept from visit to visit. A camera follows somebody of this scene, or nobody. */
export function useFilmSettings(performing: readonly CharacterPlan[], { cameras, shots }: Plan['filming']) {
  const [kept, setKept] = useState(keptFilm);
  // What was looked through last may be of another scene.
  const isThere = (through: FilmSettings['through']): boolean =>
    through === 'shots' ? shots.length > 0 : cameras.some((c) => c.id === through?.camera);
  const follow = performing.some((c) => c.character.id === kept.follow) ? kept.follow : null;
  const through = isThere(kept.through) ? kept.through : null;
  const setFilm = (values: Partial<FilmSettings>): void => {
    const next = { ...kept, ...values };
    setKept(next);
    keepFilm(next);
  };
  return { film: { ...kept, follow, through }, setFilm };
}
