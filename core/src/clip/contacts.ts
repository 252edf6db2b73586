import type { Role } from '../skeleton/roles';

/** A span of samples [start, end) in which a joint is planted. */
export interface Span {
  readonly start: number;
  readonly end: number;
}

/** Spans in which one joint is planted. */
export interface JointSteps {
  readonly role: Role;
  readonly joint: number;
  /** Number of the leg in `legsOf`, and whether the joint is its tip, which stays down when the ankle rises. */
  readonly leg: number;
  readonly tip: boolean;
  readonly spans: readonly Span[];
}

/** The steps of a clip: per planted joint, and per foot as the union of its joints' spans (of four legs the hind ones). */
export interface Steps {
  readonly joints: readonly JointSteps[];
  readonly leftFoot: readonly Span[];
  readonly rightFoot: readonly Span[];
}
