/** A place on the floor in metres with a heading in degrees, positive towards +X. */
export interface FloorPlace {
  readonly x: number;
  readonly z: number;
  readonly heading: number;
}

/** A move on the floor: metres and degrees. */
export interface Nudge {
  readonly x: number;
  readonly z: number;
  readonly turn: number;
}
