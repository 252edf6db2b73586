/** The seam of a cue that keeps the foot on which somebody stands where it is. */
export const STANDING_FOOT = { fit: 'planted foot' };
