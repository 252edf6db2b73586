import { shotsInOrder } from '../../scene/shot';
import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Puts a shot at another place among the shots, counted from 0; all keep their lengths, and the frames between them and the one before. */
export interface OrderShot {
  readonly type: 'order shot';
  readonly shot: string;
  readonly to: number;
}

export const orderShot = defineEdit<OrderShot>({
  type: 'order shot',
  schema: { shot: rule.id, to: rule.number },
  apply: ({ scene }, { shot: id, to }) => {
    const shot = lookup(scene.shots, id, 'shot');
    const before = shotsInOrder(scene.shots);
    const spans = before.map(({ start, end }, i) => {
      const last = before[i - 1];
      return { gap: last ? start - last.end : 0, length: end - start };
    });
    const at = before.indexOf(shot);
    const place = Math.min(before.length - 1, Math.max(0, Math.round(to)));
    if (place === at) return;
    const order = before.map((own, i) => ({ own, ...spans[i] }));
    order.splice(place, 0, ...order.splice(at, 1));
    let next = before[0]?.start ?? 0;
    order.forEach(({ own, gap = 0, length = 1 }, i) => {
      own.start = next + (i === 0 ? 0 : gap);
      own.end = next = own.start + length;
    });
  },
  describe: ({ shot }, scene) => `place of the shot ${scene.shots[shot]?.name ?? ''}`.trim(),
});
