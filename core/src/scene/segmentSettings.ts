import type { Segment } from './scene';
import { PLAIN_SEGMENT } from './scene';

/** All settings of a segment but its name, its clip and its place: what decides how the clip is played. */
export type SegmentSettings = Omit<Segment, 'id' | 'name' | 'clip' | 'start'>;

/** The names of the settings, in one order. */
export const SETTING_NAMES = [
  'out',
  ...(Object.keys(PLAIN_SEGMENT) as (keyof typeof PLAIN_SEGMENT)[]).filter((k) => k !== 'start'),
] as (keyof SegmentSettings)[];

/** The settings of a segment as text: equal for segments that are set alike, whatever the order of their fields. */
export function settingsText(segment: SegmentSettings): string {
  let text = '';
  for (const name of SETTING_NAMES) {
    const value: unknown = segment[name];
    if (typeof value === 'string') text += `${value.length}:${value} `;
    else text += typeof value === 'object' ? `${JSON.stringify(value)} ` : `${String(value)} `;
  }
  return text;
}

/** The settings alone. */
export const settingsOf = (segment: Segment): SegmentSettings =>
  Object.fromEntries(SETTING_NAMES.map((name) => [name, segment[name]])) as unknown as SegmentSettings;
