import type { Plan, Scene } from '@warper/core';
import { InputError } from '@warper/core';
import type { BakeOrder } from '@warper/formats';
import { ZipStream, fileName } from '@warper/formats';
import type { FilmSettings } from '../../../data/keptFilm';
import { motion } from '../../../data/motion';
import type { BakedFile } from '../../../workers/protocol';
import { renderFilm } from '../film/renderFilm';

/** What is handed over with each alternate to be looked at; null nothing. */
export type PreviewFormat = 'gif' | 'mp4' | 'webm';

/** An alternate that is baked, as it is performed. */
export interface BakedVersion {
  readonly id: string;
  readonly name: string;
  readonly comment: string;
  readonly scene: Scene;
  readonly plan: Plan;
  readonly order: BakeOrder;
}

/** What has become of one alternate. */
export interface AlternateResult {
  readonly version: BakedVersion;
  readonly folder: string;
  readonly files: readonly BakedFile[];
  readonly preview: { readonly name: string; readonly film: Blob } | null;
}

/** A small film: large enough to be judged, small enough for a message. */
const PREVIEW = { width: 480, height: 270, rate: 15 } as const;

/** The settings of a moving preview. */
function previewSettings(format: PreviewFormat, { filming }: Plan): FilmSettings {
  return {
    format,
    ...PREVIEW,
    angle: 'three-quarter',
    follow: null,
    through: filming.shots.length > 0 ? 'shots' : null,
    timecode: true,
    names: false,
    footprints: false,
    seams: false,
    lines: true,
    sound: true,
    every: 1,
  };
}

/** What is known of a bake on its way: which alternate, and the share of all that is done. */
export type AlternateProgress = (name: string, share: number) => void;

/**
 * Bakes alternates one after the other, each with a moving preview seen by the same camera.
 *
 * @throws InputError `cancelled` once the signal is aborted
 */
export async function bakeAlternates(
  versions: readonly BakedVersion[],
  preview: PreviewFormat | null,
  theme: 'day' | 'night',
  progress: AlternateProgress,
  signal: AbortSignal,
): Promise<AlternateResult[]> {
  const results: AlternateResult[] = [];
  const folders = foldersOf(versions);
  const steps = versions.length * (preview ? 2 : 1);
  let done = 0;
  for (const [i, version] of versions.entries()) {
    const { scene, order, name } = version;
    const share = (s: number): void => progress(name, (done + s) / steps);
    const { files } = await motion.bake(
      { scene, order },
      (file, s) => share((file + s) / Math.max(1, order.characters.length)),
      signal,
    );
    done++;
    const film = preview && (await previewOf(versions, version, preview, { theme, share, signal }));
    if (film) done++;
    const folder = folders[i] ?? name;
    results.push({ version, folder, files, preview: film && { name: `${folder}.${preview}`, film } });
  }
  return results;
}

interface Showing {
  readonly theme: 'day' | 'night';
  readonly share: (s: number) => void;
  readonly signal: AbortSignal;
}

/** A film of what is baked of an alternate; the camera takes in what all of them do. */
function previewOf(
  versions: readonly BakedVersion[],
  version: BakedVersion,
  format: PreviewFormat,
  { theme, share, signal }: Showing,
): Promise<Blob> {
  const { scene, plan } = version;
  const span = wholeOf([version]);
  const cast = castOf(version);
  if (cast.length === 0) throw new InputError('nobody', `Nobody is baked in ${version.name}.`);
  return renderFilm({
    scene,
    plan,
    cast,
    span: { name: '', ...span },
    settings: previewSettings(format, plan),
    theme,
    framing: { cast: versions.flatMap(castOf), ...wholeOf(versions) },
    pictures: null,
    progress: share,
    signal,
  });
}

const castOf = ({ plan, order }: BakedVersion): Plan['characters'][number][] =>
  plan.characters.filter((c) => order.characters.includes(c.character.id));

/** All frames that are baked of some alternates. */
function wholeOf(versions: readonly BakedVersion[]): { readonly from: number; readonly to: number } {
  const spans = versions.flatMap((v) => v.order.spans);
  return { from: Math.min(...spans.map((s) => s.from)), to: Math.max(...spans.map((s) => s.to)) };
}

/** What their folders are called: after them, and no two alike. */
export function foldersOf(versions: readonly Pick<BakedVersion, 'name'>[]): string[] {
  const taken = new Set<string>();
  return versions.map(({ name }) => {
    let folder = fileName(name);
    for (let n = 2; taken.has(folder.toLowerCase()); n++) folder = `${fileName(name)}-${n}`;
    taken.add(folder.toLowerCase());
    return folder;
  });
}

/** What was said of the alternates, as a text that goes with their files. */
export const commentsText = (scene: string, results: readonly AlternateResult[]): string =>
  [
    scene,
    '',
    ...results.map(
      ({ version: { name, comment }, folder }) => `${folder}/  ${name}${comment ? `: ${comment}` : ''}`,
    ),
    '',
  ].join('\n');

/** All that was baked, as one archive: a folder for each alternate, and what was said of them. */
export async function archiveOf(scene: string, results: readonly AlternateResult[]): Promise<Blob> {
  const parts: Uint8Array<ArrayBuffer>[] = [];
  const zip = new ZipStream((part) => parts.push(part as Uint8Array<ArrayBuffer>));
  const add = async (name: string, content: Blob): Promise<void> => {
    zip.begin(name);
    zip.push(new Uint8Array(await content.arrayBuffer()));
    zip.end();
  };
  await add('alternates.txt', new Blob([commentsText(scene, results)]));
  for (const { folder, files, preview } of results) {
    for (const { name, file } of files) await add(`${folder}/${name}`, file);
    if (preview) await add(`${folder}/${preview.name}`, preview.film);
  }
  zip.finish();
  return new Blob(parts, { type: 'application/zip' });
}
