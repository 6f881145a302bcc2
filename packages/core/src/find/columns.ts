/** Values of numbers that repeat, as small codes: 0 means that nothing is known. Two bytes each, four from 65,536 values on. */
export class Coded<V extends string | number> {
  /** by code; nothing at 0 */
  readonly values: (V | null)[] = [null];
  private readonly codeOf = new Map<V, number>();
  codes: Uint16Array | Uint32Array = new Uint16Array(1024);

  set(n: number, value: V | null): void {
    const code = value === null ? 0 : this.code(value);
    if (n >= this.codes.length) this.grow(n);
    this.codes[n] = code;
  }

  get(n: number): V | null {
    return this.values[this.codes[n] ?? 0] ?? null;
  }

  /** 0: no number ever had it. */
  known(value: V): number {
    return this.codeOf.get(value) ?? 0;
  }

  code(value: V): number {
    let code = this.codeOf.get(value);
    if (code === undefined) {
      code = this.values.length;
      this.codeOf.set(value, code);
      this.values.push(value);
      if (code === 65_536 && this.codes instanceof Uint16Array) this.codes = Uint32Array.from(this.codes);
    }
    return code;
  }

  private grow(n: number): void {
    const size = Math.max(n + 1, this.codes.length * 2);
    const more = this.codes instanceof Uint16Array ? new Uint16Array(size) : new Uint32Array(size);
    more.set(this.codes);
    this.codes = more;
  }
}

/** Measures of numbers; NaN means that nothing is known. */
export class Measured {
  values = new Float64Array(1024).fill(Number.NaN);

  set(n: number, value: number | null): void {
    if (n >= this.values.length) {
      const more = new Float64Array(Math.max(n + 1, this.values.length * 2)).fill(Number.NaN);
      more.set(this.values);
      this.values = more;
    }
    this.values[n] = value ?? Number.NaN;
  }

  get(n: number): number | null {
    const value = this.values[n] ?? Number.NaN;
    return Number.isNaN(value) ? null : value;
  }
}
