/**
 * What is written and read of OpenTimelineIO's JSON (Academy Software Foundation, "OpenTimelineIO serialized schema", schema names with
 * their versions as `OTIO_SCHEMA`).
 */

export interface RationalTime {
  readonly OTIO_SCHEMA: 'RationalTime.1';
  readonly value: number;
  readonly rate: number;
}

export interface TimeRange {
  readonly OTIO_SCHEMA: 'TimeRange.1';
  readonly start_time: RationalTime;
  readonly duration: RationalTime;
}

export const time = (value: number, rate: number): RationalTime => ({
  OTIO_SCHEMA: 'RationalTime.1',
  value,
  rate,
});

export const range = (start: RationalTime, duration: RationalTime): TimeRange => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: start,
  duration,
});

/** What is written of our own beside the fields of the schema, in the `metadata` of a track, clip or transition. */
export const OWN = 'warper';
