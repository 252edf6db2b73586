/** `1:02.07`: minutes, seconds and hundredths of a frame's time. */
export function clock(frame: number, framesPerSecond: number): string {
  const hundredths = Math.floor((Math.max(0, frame) / framesPerSecond) * 100 + 1e-6);
  const minutes = Math.floor(hundredths / 6000);
  const seconds = Math.floor((hundredths % 6000) / 100);
  return `${minutes}:${String(seconds).padStart(2, '0')}.${String(hundredths % 100).padStart(2, '0')}`;
}

/** A length in seconds for a label. */
export const seconds = (value: number): string =>
  value < 60 ? `${value.toFixed(1)} s` : clock(value * 100, 100).slice(0, -3);
