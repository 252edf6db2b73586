import type { Vec3 } from './pose';

/** How much each joint moves a vertex; the weights add up to one. */
export type Bind = readonly (readonly [joint: number, weight: number])[];

/** One cross-section: an ellipse (or rounder box, by the exponent) about a centre, spanned by two half axes. */
export interface Ring {
  readonly centre: Vec3;
  readonly u: Vec3;
  readonly v: Vec3;
  readonly bind: Bind;
  /** 2 is an ellipse; more is boxier. */
  readonly power?: number;
}

/** A mesh that grows part by part; parts share no vertices. */
export class Surface {
  readonly positions: number[] = [];
  readonly normals: number[] = [];
  readonly joints: number[] = [];
  readonly weights: number[] = [];
  readonly indices: number[] = [];

  private vertex(p: Vec3, bind: Bind): number {
    const index = this.positions.length / 3;
    this.positions.push(...p);
    this.normals.push(0, 0, 0);
    const sum = bind.reduce((s, [, w]) => s + w, 0);
    for (let k = 0; k < 4; k++) {
      this.joints.push(bind[k]?.[0] ?? 0);
      this.weights.push((bind[k]?.[1] ?? 0) / sum);
    }
    return index;
  }

  /** A closed skin over rings, with a point at either end. */
  loft(rings: readonly Ring[], sides = 14): void {
    const first = this.positions.length / 3;
    const rows = rings.map((ring) =>
      Array.from({ length: sides }, (_, i) => {
        const a = (2 * Math.PI * i) / sides;
        const n = 2 / (ring.power ?? 2);
        const c = Math.sign(Math.cos(a)) * Math.abs(Math.cos(a)) ** n;
        const s = Math.sign(Math.sin(a)) * Math.abs(Math.sin(a)) ** n;
        return this.vertex(
          [0, 1, 2].map((k) => ring.centre[k]! + c * ring.u[k]! + s * ring.v[k]!) as unknown as Vec3,
          ring.bind,
        );
      }),
    );
    for (let r = 0; r + 1 < rows.length; r++)
      for (let i = 0; i < sides; i++) {
        const j = (i + 1) % sides;
        const [a, b, c, d] = [rows[r]![i]!, rows[r]![j]!, rows[r + 1]![j]!, rows[r + 1]![i]!];
        this.indices.push(a, b, c, a, c, d);
      }
    this.cap(rows[0]!, rings[0]!, true);
    this.cap(rows.at(-1)!, rings.at(-1)!, false);
    this.smooth(first);
  }

  private cap(row: readonly number[], ring: Ring, begin: boolean): void {
    const tip = this.vertex(ring.centre, ring.bind);
    row.forEach((a, i) => {
      const b = row[(i + 1) % row.length]!;
      if (begin) this.indices.push(tip, b, a);
      else this.indices.push(tip, a, b);
    });
  }

  /** A ball (or an egg: three half axes along x, y, z). */
  ball(centre: Vec3, radii: Vec3, bind: Bind, sides = 12): void {
    const rows = Math.ceil(sides / 2);
    const rings: Ring[] = [];
    for (let r = 0; r <= rows; r++) {
      const a = Math.PI * (0.02 + (0.96 * r) / rows);
      rings.push({
        centre: [centre[0], centre[1] - radii[1] * Math.cos(a), centre[2]],
        u: [0, 0, radii[2] * Math.sin(a)],
        v: [radii[0] * Math.sin(a), 0, 0],
        bind,
      });
    }
    this.loft(rings, sides);
  }

  /** Vertex normals: the mean of the faces around, by their area; outward whichever way the rings run. */
  private smooth(first: number): void {
    const { positions, normals, indices } = this;
    const from = indices.findIndex((v) => v >= first);
    let volume = 0;
    for (let i = from; i < indices.length; i += 3) volume += this.signedVolume(i);
    if (volume < 0)
      for (let i = from; i < indices.length; i += 3)
        [indices[i + 1], indices[i + 2]] = [indices[i + 2]!, indices[i + 1]!];
    for (let i = from; i < indices.length; i += 3) {
      const n = this.faceNormal(i);
      for (let v = 0; v < 3; v++) for (let k = 0; k < 3; k++) normals[indices[i + v]! * 3 + k]! += n[k]!;
    }
    for (let v = first * 3; v < positions.length; v += 3) {
      const length = Math.hypot(normals[v]!, normals[v + 1]!, normals[v + 2]!) || 1;
      for (let k = 0; k < 3; k++) normals[v + k]! /= length;
    }
  }

  private corner(i: number): Vec3 {
    const v = this.indices[i]! * 3;
    return [this.positions[v]!, this.positions[v + 1]!, this.positions[v + 2]!];
  }

  private faceNormal(i: number): Vec3 {
    const [a, b, c] = [this.corner(i), this.corner(i + 1), this.corner(i + 2)];
    const p = [b[0] - a[0], b[1] - a[1], b[2] - a[2]] as const;
    const q = [c[0] - a[0], c[1] - a[1], c[2] - a[2]] as const;
    return [p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0]];
  }

  private signedVolume(i: number): number {
    const [a, n] = [this.corner(i), this.faceNormal(i)];
    return a[0] * n[0] + a[1] * n[1] + a[2] * n[2];
  }
}
