/** How this page stands to a scene that it has open. */
export type Hold =
  /** It may change the scene: no other tab does. */
  | 'held'
  /** Another tab changes it; this one follows. */
  | 'elsewhere';

/** A hold on a scene, with what ends it. */
export interface SceneHold {
  /** Asks the tab that has it to let go; takes it where that tab does not answer. */
  take(): void;
  release(): void;
}

/** Milliseconds that the other tab has for keeping its last edit before the scene is taken from it. */
const PATIENCE = 2500;

/** Milliseconds after which a tab that let go waits for its next turn. */
const BEHIND = 200;

const lockName = (id: string): string => `warper-scene-${id}`;

/**
 * Holds a scene for changes, so that two tabs do not write over each other: the first one has it, the next ones are told
 * and follow, and any of them can take it over. A tab that is closed or killed lets go by itself (Web Locks).
 *
 * @param onChange told at once, and whenever it changes
 * @param onAsked keeps what is not kept yet before another tab takes over
 */
export function holdScene(
  id: string,
  onChange: (hold: Hold) => void,
  onAsked: () => Promise<void>,
): SceneHold {
  const { locks } = navigator;
  if (!locks) {
    // A browser without locks has one tab as far as it can tell.
    onChange('held');
    return { take: () => undefined, release: () => undefined };
  }
  const channel = new BroadcastChannel(lockName(id));
  let waiting = new AbortController();
  let letGo: (() => void) | null = null;
  let over = false;

  const hold = (): Promise<void> => {
    if (over) return Promise.resolve();
    onChange('held');
    return new Promise((resolve) => (letGo = resolve));
  };
  const queue = (): void => {
    waiting = new AbortController();
    locks.request(lockName(id), { signal: waiting.signal }, hold).then(lost, lost);
  };
  // Let go, taken away, or given up waiting.
  const lost = (): void => {
    if (over || letGo === null) return;
    letGo = null;
    onChange('elsewhere');
    // Behind the tab that has asked.
    setTimeout(() => !over && queue(), BEHIND);
  };
  const steal = (): void => {
    if (over || letGo) return;
    waiting.abort();
    locks.request(lockName(id), { steal: true }, hold).then(lost, lost);
  };

  channel.onmessage = ({ data }) => {
    if (data === 'asked' && letGo) void onAsked().finally(() => letGo?.());
  };
  locks
    .request(lockName(id), { ifAvailable: true }, (lock) => {
      if (lock) return hold();
      if (over) return undefined;
      onChange('elsewhere');
      queue();
      return undefined;
    })
    .then(lost, lost);
  return {
    take: () => {
      channel.postMessage('asked');
      setTimeout(steal, PATIENCE);
    },
    release: () => {
      over = true;
      waiting.abort();
      letGo?.();
      channel.close();
    },
  };
}
