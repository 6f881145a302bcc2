export type Codes = Uint8Array | Uint16Array | Uint32Array;

/** Room for codes up to `most`, as few bytes for each as they need. */
const roomFor = (most: number, size: number): Codes =>
  most < 1 << 8 ? new Uint8Array(size) : most < 1 << 16 ? new Uint16Array(size) : new Uint32Array(size);

/** Values of numbers that repeat, as small codes: 0 means that nothing is known. A byte each, two from 256 values on, four from 65,536. */
export class Coded<V extends string | number> {
  /** by code; nothing at 0 */
  readonly values: (V | null)[] = [null];
  private readonly codeOf = new Map<V, number>();
  codes: Codes = new Uint8Array(1024);

  set(n: number, value: V | null): void {
    const code = value === null ? 0 : this.code(value);
    if (n >= this.codes.length) this.codes = this.moved(Math.max(n + 1, this.codes.length * 2));
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
      if (code === 1 << 8 || code === 1 << 16) this.codes = this.moved(this.codes.length);
    }
    return code;
  }

  private moved(size: number): Codes {
    const codes = roomFor(this.values.length - 1, size);
    codes.set(this.codes);
    return codes;
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

/** Keys that share an array: 256 kB of it. */
const TOGETHER = 1 << 16;

/** Frames' numbers by their keys: four bytes each where keys follow one another. */
export class NumbersByKey {
  private readonly pages = new Map<number, Int32Array>();

  /** −1: the key is not known. */
  get(key: number): number {
    return this.pages.get(Math.floor(key / TOGETHER))?.[key % TOGETHER] ?? -1;
  }

  set(key: number, n: number): void {
    const at = Math.floor(key / TOGETHER);
    let page = this.pages.get(at);
    if (!page) this.pages.set(at, (page = new Int32Array(TOGETHER).fill(-1)));
    page[key % TOGETHER] = n;
  }
}
