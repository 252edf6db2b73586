import type { Plan, Scene } from '@warper/core';
import type { BakeOrder } from '@warper/formats';
import { BAKE_FORMATS, fileName } from '@warper/formats';
import { useState } from 'react';
import { motion } from '../../data/motion';
import { download } from '../../ui/download';
import { useWork } from './useWork';
import type { BakeResult } from '../../workers/protocol';

/** A bake that is done, of a scene as it was then. */
export interface Baked {
  readonly order: BakeOrder;
  readonly scene: Scene;
  readonly plan: Plan;
  readonly result: BakeResult;
}

/** A bake that runs: which of its files, and how much of it. */
export interface Running {
  readonly file: number;
  readonly share: number;
}

/** Runs bakes in the worker, one at a time, and hands over what they have made. */
export function useBake(scene: Scene, plan: Plan) {
  const { running, message, start, cancel } = useWork<Running>();
  const [baked, setBaked] = useState<readonly Baked[]>([]);
  const bake = (order: BakeOrder): void =>
    void start({ file: 0, share: 0 }, async (progress, signal) => {
      const told = (file: number, share: number): void => progress({ file, share });
      const result = await motion.bake({ scene, order }, told, signal);
      save(order, result);
      setBaked((list) => [{ order, scene, plan, result }, ...list]);
    });
  return { running, message, baked, start: bake, cancel };
}

/** Hands a bake to the browser: its file, or all of them as one archive. */
export function save({ name }: BakeOrder, { files, zip }: BakeResult): void {
  const [only] = files;
  if (zip) download(zip, `${zipName(name)}.zip`, 'application/zip');
  else if (only) saveFile(only);
}

const zipName = (name: string): string => fileName(`${name} bake`);

export const saveFile = ({ name, file }: BakeResult['files'][number]): void =>
  download(file, name, typeOf(name));

const typeOf = (name: string): string =>
  Object.values(BAKE_FORMATS).find(({ extension }) => name.endsWith(`.${extension}`))?.type ??
  'application/octet-stream';
