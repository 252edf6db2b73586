import type { CharacterPlan, Plan } from '@warper/core';
import { InputError, framesPerSecond } from '@warper/core';
import type { BakeFormat, BakeOrder, PlannedFile } from '@warper/formats';
import { BAKE_FORMATS, bakeRemarks, plannedFiles, seamsWithin } from '@warper/formats';
import { useMemo, useState } from 'react';
import { library } from '../../data/pageLibrary';
import { OpeningPage } from '../../parts/OpeningPage';
import { SceneHeader } from '../../parts/SceneHeader';
import { useOpenScene } from '../../parts/useOpenScene';
import { selectPreviewPlan, selectPreviewScene } from '../../store/selectors';
import { useAppSelector } from '../../store/store';
import { Button } from '../../ui/controls';
import { AlternateGroup } from './alternates/AlternateGroup';
import { AlternateOutcome } from './alternates/AlternateOutcome';
import { useAlternateChoice } from './alternates/useAlternateChoice';
import { BakedList } from './BakedList';
import { FileGroup } from './FileGroup';
import { FileList } from './FileList';
import { FilmGroup } from './film/FilmGroup';
import { FilmOutcome } from './film/FilmOutcome';
import type { FormProps } from './formState';
import { useFilmSettings, useOrder, useSettings } from './formState';
import { MotionGroup } from './MotionGroup';
import { PartGroup } from './PartGroup';
import { Presets } from './Presets';
import { SeamTable } from './SeamTable';
import type { OfferedPart } from './spans';
import { partOf } from './spans';
import { useBake } from './useBake';
import { WhoGroup } from './WhoGroup';

/** Bakes performances into files: who, which part, and how. */
export function BakePage() {
  const opening = useOpenScene();
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  if (opening.state !== 'open') return <OpeningPage opening={opening} />;
  const performing = plan.characters.filter((c) => c.end > c.start);
  return (
    <div className="flex h-full flex-col">
      <SceneHeader id={opening.id} name={scene.name} page="Bake" />
      <main className="min-h-0 flex-1 overflow-auto">
        {performing.length > 0 ? (
          <BakeForm scene={scene} plan={plan} performing={performing} />
        ) : (
          <p className="p-8 text-soft">No character has segments yet. Lay out a performance first.</p>
        )}
      </main>
    </div>
  );
}

/** What the page makes. */
type Making = 'files' | 'film';

function BakeForm(props: FormProps) {
  const { scene, plan, performing } = props;
  const baking = useSettings();
  const { settings, set } = baking;
  const ordered = useOrder(props, settings);
  const work = useBake(scene, plan);
  const [making, setMaking] = useState<Making>('files');
  const { film, setFilm } = useFilmSettings(props.performing, plan.filming);
  const theme = useAppSelector((s) => s.session.theme);
  const cast = performing.filter((c) => ordered.chosen.includes(c.character.id));
  const isFilm = making === 'film';
  const choice = useAlternateChoice(scene, plan, ordered.orderOf);
  const fps = framesPerSecond(plan.rate);
  // A film is of one part; of several, the whole is shown. A sheet has a row for each.
  const single = ordered.parts.filter((p) => p.spans.length === 1);
  const parts = isFilm && film.format !== 'sheet' ? single : ordered.parts;
  const shown = parts.includes(ordered.current) ? ordered.current : partOf(parts, 'scene');
  return (
    <form
      className="mx-auto grid max-w-5xl grid-cols-[minmax(0,20rem)_minmax(0,1fr)] gap-10 px-6 py-6 max-narrow:grid-cols-1 max-narrow:gap-4"
      // Enter takes a number over; what starts a bake is its button.
      onSubmit={(e) => e.preventDefault()}
    >
      <div className="flex flex-col gap-3">
        <MakingChoice making={making} onChoose={setMaking} />
        {!isFilm && choice.alternates.length > 0 && <AlternateGroup {...choice} />}
        <WhatGroups {...{ performing, baking, ordered, parts, shown, fps, isFilm }} />
        {isFilm ? (
          <FilmGroup
            settings={film}
            set={setFilm}
            cast={cast}
            sceneRate={fps}
            filming={plan.filming}
            heard={heardOf(scene)}
          />
        ) : (
          <>
            <FileGroup settings={settings} set={set} cameras={plan.filming.cameras.length} />
            <MotionGroup settings={settings} set={set} cast={cast} sceneRate={fps} />
          </>
        )}
      </div>
      {isFilm ? (
        <FilmOutcome
          scene={scene}
          plan={plan}
          cast={cast}
          spans={shown.spans}
          settings={film}
          theme={theme}
        />
      ) : choice.isMany ? (
        <AlternateOutcome scene={scene} versions={choice.versions} preview={choice.preview} theme={theme} />
      ) : (
        <Outcome plan={plan} order={ordered.order} work={work} />
      )}
    </form>
  );
}

/** Whether a scene has sounds, and lines. */
const heardOf = ({ soundLaneOrder, lines }: FormProps['scene']) => ({
  sounds: soundLaneOrder.length > 0,
  lines: Object.keys(lines).length > 0,
});

interface WhatProps {
  readonly performing: readonly CharacterPlan[];
  readonly baking: ReturnType<typeof useSettings>;
  readonly ordered: ReturnType<typeof useOrder>;
  readonly parts: readonly OfferedPart[];
  readonly shown: OfferedPart;
  readonly fps: number;
  readonly isFilm: boolean;
}

/** Who and which part is baked or filmed. */
function WhatGroups({ performing, baking, ordered, parts, shown, fps, isFilm }: WhatProps) {
  const { settings, presets, set, keep } = baking;
  const format: BakeFormat = BAKE_FORMATS[settings.format];
  return (
    <>
      {!isFilm && (
        <Presets
          settings={settings}
          presets={presets}
          onTake={(last) => keep({ last })}
          onPresets={(list) => keep({ presets: list })}
        />
      )}
      <WhoGroup
        performing={performing}
        chosen={ordered.chosen}
        together={!isFilm && format.holdsSeveral ? settings.together : null}
        isFilm={isFilm}
        onChoose={ordered.setChosen}
        onTogether={(together) => set({ together })}
      />
      <PartGroup
        parts={parts}
        chosen={shown}
        framesPerSecond={fps}
        together={!isFilm && format.holdsTakes ? settings.spansTogether : null}
        onChoose={ordered.choosePart}
        onFrames={ordered.setFrames}
        onTogether={(spansTogether) => set({ spansTogether })}
      />
    </>
  );
}

function MakingChoice({ making, onChoose }: { making: Making; onChoose: (making: Making) => void }) {
  return (
    <div className="flex items-baseline justify-between">
      <h1 className="text-display font-bold">Bake</h1>
      <div role="group" aria-label="What is made" className="flex gap-2">
        {(
          [
            ['files', 'Motion files'],
            ['film', 'Film'],
          ] as const
        ).map(([key, name]) => (
          <Button look="tab" key={key} aria-pressed={making === key} onClick={() => onChoose(key)}>
            {name}
          </Button>
        ))}
      </div>
    </div>
  );
}

interface OutcomeProps {
  readonly plan: Plan;
  readonly order: BakeOrder;
  readonly work: ReturnType<typeof useBake>;
}

/** What is going to be written, the start of it, and what has been. */
function Outcome({ plan, order, work }: OutcomeProps) {
  const { running, message, baked } = work;
  const planned = planOrder(plan, order);
  const seams = useMemo(
    () =>
      seamsWithin(
        plan,
        plan.characters.filter((c) => order.characters.includes(c.character.id)),
        order,
      ),
    // Other settings change no seam.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [plan, order.characters, order.spans],
  );
  return (
    <div>
      {typeof planned === 'string' ? (
        <p className="text-soft">{planned}</p>
      ) : (
        <FileList files={planned} remarks={bakeRemarks(plan, order, planned, library)} running={running} />
      )}
      <div className="mt-4 flex items-center gap-3">
        {running ? (
          <Button onClick={work.cancel}>Cancel</Button>
        ) : (
          <Button
            look="primary"
            disabled={typeof planned === 'string'}
            data-bake
            onClick={() => work.start(order)}
          >
            {typeof planned === 'string' || planned.length === 1
              ? `Bake ${BAKE_FORMATS[order.settings.format].extension.toUpperCase()}`
              : `Bake ${planned.length} files`}
          </Button>
        )}
        {message && (
          <p role="alert" className="text-bad">
            {message}
          </p>
        )}
      </div>
      <BakedList baked={baked} />
      <SeamTable seams={seams} />
    </div>
  );
}

/** The files of an order, or why there are none. */
function planOrder(plan: Plan, order: BakeOrder): readonly PlannedFile[] | string {
  try {
    return plannedFiles(plan, order, library);
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    return `${error.message} ${error.hint}`;
  }
}
