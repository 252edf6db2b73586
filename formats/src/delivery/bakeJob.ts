import type { BakedFacts } from './bakeFile';

/** A file that a job has baked. */
export interface BakeJobFile extends BakedFacts {
  /** Its name, the only one of the job. */
  readonly name: string;
  /** Media type. */
  readonly type: string;
  /** Names of those who perform in it. */
  readonly characters: readonly string[];
  /** SHA-256 of its content, in hex. */
  readonly sha256: string;
}

/** What is wrong with a job, in the form of every error of the server. */
export interface BakeJobError {
  readonly code: string;
  readonly message: string;
  readonly place: Readonly<Record<string, unknown>>;
  readonly hint: string;
}

/** A bake that the server was asked for. */
export interface BakeJob {
  readonly id: string;
  readonly state: 'waiting' | 'running' | 'done' | 'failed';
  /** Finished share, 0 to 1. */
  readonly share: number;
  /** When it was asked for, ISO 8601. */
  readonly created: string;
  /** What it has made; none before it is done. */
  readonly files: readonly BakeJobFile[];
  readonly error: BakeJobError | null;
}

/** A page of bakes, the newest first. */
export interface BakeJobPage {
  readonly total: number;
  readonly bakes: readonly BakeJob[];
}
