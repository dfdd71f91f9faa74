/** A straight line through points, nearest to them by least squares. Textbook. */
export class Line {
  private n = 0;
  private x = 0;
  private y = 0;
  private xx = 0;
  private xy = 0;

  /** @param about an x near those of the points: their sums then lose no digits */
  constructor(private readonly about = 0) {}

  add(x: number, y: number): this {
    const d = x - this.about;
    this.n++;
    this.x += d;
    this.y += y;
    this.xx += d * d;
    this.xy += d * y;
    return this;
  }

  /** Whether the points lie at more than one x: without, there is no slope. */
  get tells(): boolean {
    return this.n * this.xx - this.x * this.x > 0;
  }

  /** 0 where nothing tells it. */
  get slope(): number {
    const spread = this.n * this.xx - this.x * this.x;
    return spread > 0 ? (this.n * this.xy - this.x * this.y) / spread : 0;
  }

  at(x: number): number {
    const { slope } = this;
    return (this.y - slope * this.x) / this.n + slope * (x - this.about);
  }
}
