/** Colours of the documents: those of the application by day. */
export const INK = '#22252b';
export const SOFT = '#5d6168';
export const RULE = '#d9d4c7';
export const HUE = '#2e6e83';
export const OTHER = '#9a5b2b';
export const SIGNAL = '#c8402a';

const text = (value: number): string => String(Number(value.toFixed(2)));

/** A part of a picture with its own axes: data coordinates are drawn into a box of the picture. */
export class Panel {
  private readonly parts: string[] = [];

  /**
   * @param box x, y, width, height in the picture
   * @param from data at the lower left corner; `to` at the upper right
   */
  constructor(
    private readonly box: readonly [number, number, number, number],
    private readonly from: readonly [number, number],
    private readonly to: readonly [number, number],
    title: string,
  ) {
    const [x, y, width, height] = box;
    this.parts.push(
      `<text x="${x}" y="${y - 8}" fill="${INK}">${title}</text>`,
      `<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="none" stroke="${RULE}"/>`,
    );
  }

  at(x: number, y: number): [number, number] {
    const [left, top, width, height] = this.box;
    const u = (x - this.from[0]) / (this.to[0] - this.from[0]);
    const v = (y - this.from[1]) / (this.to[1] - this.from[1]);
    return [left + u * width, top + (1 - v) * height];
  }

  line(points: readonly (readonly [number, number])[], colour: string, width = 1.5, dash = ''): this {
    const d = points.map(([x, y]) => this.at(x, y).map(text).join(',')).join(' ');
    const dashes = dash ? ` stroke-dasharray="${dash}"` : '';
    this.parts.push(
      `<polyline points="${d}" fill="none" stroke="${colour}" stroke-width="${width}" stroke-linecap="round" stroke-linejoin="round"${dashes}/>`,
    );
    return this;
  }

  dots(points: readonly (readonly [number, number])[], colour: string, radius = 2): this {
    for (const [x, y] of points) {
      const [cx, cy] = this.at(x, y).map(text);
      this.parts.push(`<circle cx="${cx}" cy="${cy}" r="${radius}" fill="${colour}"/>`);
    }
    return this;
  }

  /** A filled span of the data, `opacity` thick. */
  area(x0: number, y0: number, x1: number, y1: number, colour: string, opacity = 0.2): this {
    const [a, b] = [this.at(x0, y1), this.at(x1, y0)];
    const [x, y, width, height] = [a[0], a[1], b[0] - a[0], b[1] - a[1]].map(text);
    this.parts.push(
      `<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="${colour}" opacity="${text(opacity)}"/>`,
    );
    return this;
  }

  label(
    x: number,
    y: number,
    words: string,
    colour = SOFT,
    anchor: 'start' | 'middle' | 'end' = 'start',
  ): this {
    const [px, py] = this.at(x, y).map(text);
    this.parts.push(`<text x="${px}" y="${py}" fill="${colour}" text-anchor="${anchor}">${words}</text>`);
    return this;
  }

  toString(): string {
    return this.parts.join('\n');
  }
}

/** A whole picture. */
export const picture = (width: number, height: number, panels: readonly Panel[]): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" font-family="sans-serif" font-size="12.5">
<rect width="${width}" height="${height}" fill="#fbfaf6"/>
${panels.join('\n')}
</svg>
`;
