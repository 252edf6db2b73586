import { useMemo } from 'react';
import { differingSpans } from '@warper/core';
import { shallowEqual } from 'react-redux';
import { library } from '../../../data/pageLibrary';
import type { Version } from '../../../store/alternates';
import { besidesNow } from '../../../store/alternates';
import { useAppSelector } from '../../../store/store';
import { Ghost } from './Ghosts';

/** Hues that lie between that of a character and its ghost in another alternate: told apart from it, and from one another. */
const HUES_APART = 3;

const hueOf = (hue: number, i: number): number => (hue + (i + 1) * HUES_APART) % 8;

/** The alternates that are overlaid as ghosts. */
export function useGhostVersions(): readonly Version[] {
  const besides = useAppSelector(besidesNow, shallowEqual);
  const isOn = useAppSelector((s) => s.session.comparison === 'ghosts');
  return isOn ? besides : NONE;
}

const NONE: readonly Version[] = [];

/** Characters who do something else in another alternate, as ghosts at the playhead, in another hue for each of them. */
export function AlternateGhosts({ versions }: { readonly versions: readonly Version[] }) {
  return versions.map((version, i) => <GhostsOf key={version.alternate.id} version={version} index={i} />);
}

function GhostsOf({ version, index }: { readonly version: Version; readonly index: number }) {
  const document = useAppSelector((s) => s.scene.document);
  const cast = useMemo(() => {
    const differing = new Set(
      document ? differingSpans(version.scene, document, library).map((s) => s.character) : [],
    );
    return version.plan.characters.filter(
      ({ character }) => differing.has(character.id) && character.shown !== 'nothing',
    );
  }, [document, version]);
  return cast.map((c) => (
    <Ghost key={c.character.id} plan={c} by={0} opacity={0.45} hue={hueOf(c.character.hue, index)} />
  ));
}

/** What the ghosts are called, in their hues. */
export function GhostNames({ versions }: { readonly versions: readonly Version[] }) {
  const { characters = {} } = useAppSelector((s) => s.scene.document) ?? {};
  const [first] = Object.values(characters);
  return (
    <p className="pointer-events-none absolute top-2 left-2 flex flex-col gap-0.5 text-small">
      {versions.map(({ alternate }, i) => (
        <span key={alternate.id} className="rounded-sm bg-plaster/85 px-1">
          <span aria-hidden style={{ color: `var(--hue-${hueOf(first?.hue ?? 0, i)})` }}>
            ●
          </span>{' '}
          {alternate.name}, as a ghost
        </span>
      ))}
    </p>
  );
}
