/**
 * What is asked of a motion before it would be posed. Degrees by which both arms swing out, and the trunk leans forward; metres by which
 * the feet stand further apart, and the hips are lower; how much arms and trunk depart from their own mean pose.
 */
export interface Dials {
  readonly clearance?: number;
  readonly lean?: number;
  readonly stance?: number;
  readonly crouch?: number;
  readonly arms?: number;
  readonly trunk?: number;
}

export type Dial = keyof Dials;

/** The limits of each dial, and what it is where nothing is asked. */
export const DIALS: Readonly<
  Record<Dial, { readonly least: number; readonly most: number; readonly none: number }>
> = {
  clearance: { least: -45, most: 60, none: 0 },
  lean: { least: -45, most: 60, none: 0 },
  stance: { least: -0.5, most: 1, none: 0 },
  crouch: { least: -0.2, most: 1, none: 0 },
  arms: { least: 0, most: 2, none: 1 },
  trunk: { least: 0, most: 2, none: 1 },
};

/** Dials with those of another kind on top: what is swung, moved and lowered adds up, amplitudes multiply; none where nothing is left. */
export function combinedDials(a: Dials, b: Dials): Dials {
  const out: { -readonly [K in Dial]?: number } = {};
  for (const dial of Object.keys(DIALS) as Dial[]) {
    const { none } = DIALS[dial];
    const value = none === 1 ? (a[dial] ?? 1) * (b[dial] ?? 1) : (a[dial] ?? 0) + (b[dial] ?? 0);
    if (value !== none) out[dial] = value;
  }
  return out;
}
