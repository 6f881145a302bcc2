/** Frames' numbers in order of time, kept so while frames come and times change: what has not moved is not sorted anew. */
export class TimeOrder {
  /** null: none was asked for yet */
  private numbers: Uint32Array | null = null;
  private moved = new Set<number>();

  /** A frame has another time than it had, or is new. Before the first question all are put in order in any case. */
  move(n: number): void {
    if (this.numbers) this.moved.add(n);
  }

  /** Whether a frame has its place already. */
  has(n: number): boolean {
    return this.numbers !== null && n < this.numbers.length;
  }

  /** The first `size` numbers; those without a time (NaN) last, equal ones as they came. */
  of(values: ArrayLike<number>, size: number): Uint32Array {
    const at = (n: number): number => (Number.isNaN(values[n]!) ? Infinity : values[n]!);
    const before = (a: number, b: number): number => at(a) - at(b) || a - b || 0;
    if (!this.numbers) return (this.numbers = Uint32Array.from({ length: size }, (_, n) => n).sort(before));
    if (this.moved.size === 0) return this.numbers;
    const changed = Uint32Array.from(this.moved).sort(before);
    const old = this.numbers;
    const next = new Uint32Array(size);
    let [i, j, to] = [0, 0, 0];
    while (to < size) {
      while (i < old.length && this.moved.has(old[i]!)) i++;
      if (i >= old.length) next[to++] = changed[j++]!;
      else if (j >= changed.length || before(old[i]!, changed[j]!) <= 0) next[to++] = old[i++]!;
      else next[to++] = changed[j++]!;
    }
    this.moved = new Set();
    return (this.numbers = next);
  }
}
