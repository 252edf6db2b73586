import type { Clip, Library } from '@warper/core';
import { InputError, compile, fixedLibrary } from '@warper/core';
import { skeletonSignature } from '@warper/formats';
import { library } from '../../../data/pageLibrary';
import { ClipStage } from '../clip/ClipStage';
import { asRecorded, variantScene } from '../clip/variant';

/** A plan of the clip on a body, or why there is none. */
export type Made = { readonly plan: ReturnType<typeof compile> } | { readonly trouble: string };

/** Compiles a clip, its roles perhaps on trial, on a body. */
export function planOn(clip: Clip, body: string): Made {
  const onTrial = fixedLibrary({
    clip: (id) => (id === clip.id ? clip : undefined),
    body: trialBody(clip, body),
  });
  try {
    return { plan: compile(variantScene(clip, body, asRecorded(clip)), onTrial) };
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    return { trouble: error.message };
  }
}

/** The clip's own body has the roles on trial too. */
const trialBody =
  (clip: Clip, body: string): Library['body'] =>
  (id) => {
    if (id !== body) return undefined;
    const entry = library.bodyEntry(id)?.body;
    const signature = skeletonSignature(clip.skeleton.names, clip.skeleton.parents);
    return entry && !entry.skinned && entry.signature === signature ? clip.skeleton : entry?.skeleton;
  };

/** A clip on a body, or why it cannot be shown there. */
export function MappedStage(props: {
  title: string;
  made: Made;
  playing: Parameters<typeof ClipStage>[0]['playing'];
}) {
  const { title, made, playing } = props;
  return (
    <section aria-label={title} className="relative min-h-0 border-r bg-plaster">
      {'plan' in made ? (
        <ClipStage plan={made.plan} playing={playing} side="around" />
      ) : (
        <p role="alert" className="grid h-full place-items-center px-8 text-center text-bad">
          {made.trouble}
        </p>
      )}
      <h2 className="absolute top-2 left-3 text-small text-soft">{title}</h2>
    </section>
  );
}
