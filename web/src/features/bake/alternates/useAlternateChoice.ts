import type { Plan, Scene } from '@warper/core';
import type { BakeOrder } from '@warper/formats';
import { useMemo, useState } from 'react';
import { useStore } from 'react-redux';
import { selectAlternates, versionNow } from '../../../store/alternates';
import type { RootState } from '../../../store/store';
import { useAppSelector } from '../../../store/store';
import type { BakedVersion, PreviewFormat } from './bakeAlternates';

/**
 * Which alternates of the open scene are baked; at first the one in hand alone, as if there were no others.
 *
 * @param orderOf the order that the form makes, of one of them
 */
export function useAlternateChoice(
  scene: Scene,
  plan: Plan,
  orderOf: (name: string, scene: Scene, plan: Plan) => BakeOrder,
) {
  const store = useStore<RootState>();
  const alternates = useAppSelector(selectAlternates);
  const inHand = alternates.find((a) => a.differences === null)?.id;
  const [picked, setPicked] = useState<readonly string[] | null>(null);
  const [preview, setPreview] = useState<PreviewFormat | null>(null);
  const chosen = useMemo(() => picked ?? (inHand === undefined ? [] : [inHand]), [picked, inHand]);
  const isMany = alternates.length > 0 && (preview !== null || chosen.length !== 1 || chosen[0] !== inHand);
  const versions = useMemo(
    () => (isMany ? alternates.filter((a) => chosen.includes(a.id)) : []),
    [isMany, alternates, chosen],
  ).map(({ id, name, comment }): BakedVersion => {
    const version = versionNow(store.getState(), id);
    const [of, performed] = [version?.scene ?? scene, version?.plan ?? plan];
    return {
      id,
      name,
      comment,
      scene: of,
      plan: performed,
      order: orderOf(`${scene.name} ${name}`, of, performed),
    };
  });
  return {
    alternates,
    chosen,
    preview,
    isMany,
    versions,
    onChoose: setPicked as (chosen: readonly string[]) => void,
    onPreview: setPreview,
  };
}
