import type { CharacterPlan, Plan, Scene, SeamMeasures } from '@warper/core';
import { bakedFrames, framesPerSecond, parseRate, defined } from '@warper/core';
import { Progress } from 'radix-ui';
import { useRef, useState } from 'react';
import { motion } from '../../data/motion';
import { describeError } from '../../data/importFiles';
import { Button, Check, Choice } from '../../ui/controls';
import { download } from '../../ui/download';
import { GradeMark, cm, degrees } from '../../ui/grade';
import { NumberField } from '../../ui/NumberField';
import { clock } from '../../ui/time';
import { commit } from '../../store/edits';
import { seamOf } from '../../store/plan';
import { selectPreviewPlan, selectPreviewScene } from '../../store/selectors';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { OpeningPage } from '../../parts/OpeningPage';
import { SceneHeader } from '../../parts/SceneHeader';
import { useOpenScene } from '../../parts/useOpenScene';
import { fileName } from '../../data/fileName';

/** What is baked. */
interface Settings {
  readonly character: string;
  readonly format: 'glb' | 'bvh';
  readonly from: number;
  readonly to: number;
  readonly rate: number;
  readonly travel: 'recorded' | 'in place';
}

interface Written {
  readonly name: string;
  readonly file: Blob;
  readonly frames: number;
  readonly rate: number;
}

/** Bakes a character's performance into one file. */
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

function BakeForm({
  scene,
  plan,
  performing,
}: {
  scene: Scene;
  plan: Plan;
  performing: readonly CharacterPlan[];
}) {
  const fps = framesPerSecond(plan.rate);
  const first = defined(performing[0]);
  const [settings, setSettings] = useState<Settings>({
    character: first.character.id,
    format: 'glb',
    from: first.start,
    to: first.end,
    rate: fps,
    travel: 'recorded',
  });
  const dispatch = useAppDispatch();
  const work = useBake(scene);
  const set = (values: Partial<Settings>): void => setSettings((s) => ({ ...s, ...values }));
  const character = performing.find((c) => c.character.id === settings.character) ?? first;
  const frames = bakedFrames(settings.from, settings.to, settings.rate, fps);
  const name = `${fileName(`${scene.name} ${character.character.name}`)}.${settings.format}`;
  const seams = character.segments.slice(1).map((_, i) => seamOf(character, i, plan.rate));
  return (
    <div className="mx-auto grid max-w-4xl grid-cols-[minmax(0,22rem)_minmax(0,1fr)] gap-12 px-6 py-8 max-narrow:grid-cols-1 max-narrow:gap-4">
      <form
        className="flex flex-col gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          work.start(settings, name);
        }}
      >
        <h1 className="mb-2 text-display font-bold">Bake</h1>
        <BakeFields settings={settings} set={set} performing={performing} fps={fps} />
        <Check
          label="Lock planted feet"
          checked={character.character.footLock}
          onChange={(on) => dispatch(commit({ type: 'foot-lock', character: character.character.id, on }))}
        />
        <p className="mt-3 border-t pt-3 text-soft">
          {name}: {frames} frames at {Number(settings.rate.toFixed(3))} a second,{' '}
          {clock(frames, settings.rate)}, {character.skeleton.names.length} joints, one key a frame.
        </p>
        <StartOrCancel work={work} format={settings.format} />
        {work.message && (
          <p role="alert" className="text-bad">
            {work.message}
          </p>
        )}
        <WrittenList written={work.written} />
      </form>
      <SeamReport character={character} seams={seams} />
    </div>
  );
}

interface FieldProps {
  readonly settings: Settings;
  readonly set: (values: Partial<Settings>) => void;
  readonly performing: readonly CharacterPlan[];
  readonly fps: number;
}

/** Whose performance, which part of it, and how it is written. */
function BakeFields({ settings, set, performing, fps }: FieldProps) {
  return (
    <>
      <Choice
        label="Character"
        value={settings.character}
        options={performing.map((c) => [c.character.id, c.character.name])}
        onChange={(id) => {
          const c = defined(performing.find((p) => p.character.id === id));
          set({ character: id, from: c.start, to: c.end });
        }}
      />
      <Choice
        label="Format"
        value={settings.format}
        options={[
          ['glb', 'GLB, with the body'],
          ['bvh', 'BVH, bones only'],
        ]}
        onChange={(format) => set({ format })}
      />
      <NumberField
        label="Start frame"
        unit="f"
        value={settings.from}
        framesPerSecond={fps}
        most={settings.to - 1}
        onChange={(from) => set({ from: Math.round(from) })}
      />
      <NumberField
        label="End frame"
        unit="f"
        value={settings.to}
        framesPerSecond={fps}
        least={settings.from + 1}
        onChange={(to) => set({ to: Math.round(to) })}
      />
      <NumberField
        label="Frames per second"
        digits={3}
        value={settings.rate}
        least={1}
        most={1000}
        onChange={(rate) => set({ rate: framesPerSecond(parseRate(rate)) })}
      />
      <Choice
        label="Travel"
        value={settings.travel}
        options={[
          ['recorded', 'As in the scene'],
          ['in place', 'In place'],
        ]}
        onChange={(travel) => set({ travel })}
      />
    </>
  );
}

/** The button that starts a bake; while one runs, how far it is and a way to stop it. */
function StartOrCancel({ work, format }: { work: ReturnType<typeof useBake>; format: string }) {
  return (
    <div className="mt-2 flex items-center gap-3">
      {work.share === null ? (
        <Button look="primary" type="submit">
          Bake {format.toUpperCase()}
        </Button>
      ) : (
        <>
          <Progress.Root
            value={Math.round(work.share * 100)}
            className="h-2 w-44 overflow-hidden rounded-full bg-rule"
            aria-label="Baking"
          >
            <Progress.Indicator className="h-full bg-signal" style={{ width: `${work.share * 100}%` }} />
          </Progress.Root>
          <Button onClick={work.cancel}>Cancel</Button>
        </>
      )}
    </div>
  );
}

function WrittenList({ written }: { written: readonly Written[] }) {
  if (written.length === 0) return null;
  return (
    <section className="mt-3 border-t pt-3" aria-label="Baked files">
      <ul>
        {written.map((w, i) => (
          <li key={i} className="flex items-baseline justify-between gap-3">
            <span>
              <span className="text-good">●</span> {w.name}
              <span className="block text-soft">
                {w.frames} frames, {(w.file.size / 1024).toFixed(0)} KB
              </span>
            </span>
            <Button look="quiet" onClick={() => hand(w)}>
              Download again
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function SeamReport({ character, seams }: { character: CharacterPlan; seams: readonly SeamMeasures[] }) {
  return (
    <section aria-label="Measures">
      <h2 className="mt-2 mb-2 text-title font-bold">Seams in it</h2>
      {seams.length === 0 && <p className="text-soft">One segment, so there is no seam.</p>}
      {seams.length > 0 && (
        <table className="w-full text-right">
          <thead className="text-soft">
            <tr>
              <th className="text-left font-normal">Seam</th>
              <th className="font-normal">Frame</th>
              <th className="font-normal">Pop</th>
              <th className="font-normal">Glide</th>
              <th className="font-normal">Turn</th>
            </tr>
          </thead>
          <tbody>
            {seams.map((s) => (
              <tr key={s.index} className="border-t">
                <td className="py-1 text-left">
                  <GradeMark grade={s.grade} /> {defined(character.segments[s.index]).name} →{' '}
                  {defined(character.segments[s.index + 1]).name}
                </td>
                <td>{s.frame}</td>
                <td>{cm(s.popCm)}</td>
                <td>{cm(s.surgeCm)}</td>
                <td>{degrees(s.turnDegrees)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

const TYPES = { glb: 'model/gltf-binary', bvh: 'text/plain' } as const;
const hand = (w: Written): void => download(w.file, w.name, TYPES[w.name.endsWith('.glb') ? 'glb' : 'bvh']);

/** Runs bakes in the worker, one at a time. */
function useBake(scene: Scene) {
  const [share, setShare] = useState<number | null>(null);
  const [message, setMessage] = useState('');
  const [written, setWritten] = useState<readonly Written[]>([]);
  const abort = useRef<AbortController | null>(null);
  const start = (settings: Settings, name: string): void => {
    abort.current = new AbortController();
    setShare(0);
    setMessage('');
    const { from, to, rate, travel, character, format } = settings;
    motion
      .bake({ scene, character, format, options: { from, to, rate, travel } }, setShare, abort.current.signal)
      .then((result) => {
        const made = { name, file: result.file, frames: result.frames, rate: result.rate };
        hand(made);
        setWritten((list) => [made, ...list]);
      })
      .catch((error) => {
        const { message: text, hint } = describeError(error);
        setMessage(`${text} ${hint}`.trim());
      })
      .finally(() => setShare(null));
  };
  return { share, message, written, start, cancel: () => abort.current?.abort() };
}
