import type { BakeJob, BakeJobPage } from '@warper/formats';
import type { BakeAsk } from './asks';

/** A baked file on this machine's disk. */
export interface BakedFileAt {
  readonly path: string;
  readonly type: string;
  readonly sha256: string;
}

/** Bakes that are asked for as jobs, wherever they are done: in threads of this process, or by workers behind a queue. */
export interface Bakes {
  /**
   * Takes a bake on.
   *
   * @param scene path of the scene file, which is taken over: it is removed once it is no longer needed
   * @throws InputError `busy` where too many wait already
   */
  create(scene: string, ask: BakeAsk): Promise<BakeJob>;
  /** The newest first; `skip` of them left out. */
  list(skip: number, count: number): Promise<BakeJobPage>;
  /** @throws InputError `no-bake` where there is none */
  find(id: string): Promise<BakeJob>;
  /**
   * Breaks a bake off, or removes what it has made: nothing of it is left.
   *
   * @throws InputError `no-bake` where there is none
   */
  remove(id: string): Promise<void>;
  /**
   * A file that a bake has made.
   *
   * @throws InputError `no-bake` where there is no such bake or file
   */
  file(id: string, name: string): Promise<BakedFileAt>;
  /** Calls back when a bake has changed or gone; returns what ends that. */
  watch(id: string, onChange: () => void): () => void;
  close(): Promise<void>;
}

/** Limits of bakes as jobs. */
export interface BakeLimits {
  /** Bakes that may wait; who asks for one more is told to come again. */
  readonly mostWaiting: number;
  /** Bytes that the files of one bake may have. */
  readonly mostBytes: number;
  /** Milliseconds that a bake is kept once it has ended. */
  readonly kept: number;
  /** Bakes that have ended and are kept; those that ended first go first. */
  readonly mostKept: number;
}

export const BAKE_LIMITS: BakeLimits = {
  mostWaiting: 100,
  mostBytes: 2 * 2 ** 30,
  kept: 60 * 60_000,
  mostKept: 200,
};

/** Longest that a bake may take, milliseconds. */
export const LONGEST_BAKE = 30 * 60_000;
