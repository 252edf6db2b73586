import { watch } from 'node:fs';
import { basename, dirname, resolve } from 'node:path';
import type { ManyArguments, ManyReport } from './bakeMany';
import { bakeScenes } from './bakeMany';

/** Milliseconds without a change after which files are taken as whole. */
const SETTLE = 250;

/**
 * Bakes scenes, and again whenever anything in their folders has changed, until it is stopped. What is as it would be made stays, so a
 * change costs what it has changed.
 *
 * @param onBaked gets what each round has made
 */
export async function watchScenes(
  scenes: readonly string[],
  args: ManyArguments,
  onBaked: (report: ManyReport) => void,
  signal: AbortSignal,
): Promise<void> {
  let wake: () => void = () => undefined;
  let changed = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const output = resolve(args.output);
  const folders = new Set(scenes.map((scene) => resolve(dirname(scene))));
  const watchers = [...folders]
    .filter((folder) => folder !== output)
    .map((folder) =>
      watch(folder, (_, file) => {
        // The folder of bakes changes by what is baked.
        if (file === basename(output)) return;
        clearTimeout(timer);
        timer = setTimeout(() => {
          changed = true;
          wake();
        }, SETTLE);
      }),
    );
  signal.addEventListener('abort', () => wake(), { once: true });
  try {
    while (!signal.aborted) {
      changed = false;
      onBaked(await bakeScenes(scenes, args, () => undefined));
      // What changed meanwhile is baked at once.
      if (!changed && !signal.aborted) await new Promise<void>((resolve) => (wake = resolve));
    }
  } finally {
    clearTimeout(timer);
    for (const watcher of watchers) watcher.close();
  }
}
