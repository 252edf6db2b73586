import type { ChildProcess } from 'node:child_process';
import type { BakeJob } from '@warper/formats';

export const REDIS_SERVER: string;

export interface Farm {
  readonly api: string;
  startWorker(): Promise<ChildProcess>;
  stopRedis(): Promise<() => Promise<void>>;
  stop(): Promise<void>;
}

export function startFarm(): Promise<Farm>;
export function askForBake(api: string, scene: Uint8Array, query?: string): Promise<BakeJob>;
export function warper(...args: string[]): string;
