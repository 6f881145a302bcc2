/**
 * The discrete Fourier transform of a square of complex numbers, in place (Cooley and Tukey 1965, radix 2). `re` and `im`
 * hold `side` rows of `side` numbers; `side` is a power of two. The inverse is divided by the number of them.
 */
export function transform(re: Float64Array, im: Float64Array, side: number, inverse = false): void {
  if (side < 1 || (side & (side - 1)) !== 0) throw new RangeError(`a side of ${side} is no power of two`);
  for (let row = 0; row < side; row++) line(re, im, row * side, 1, side, inverse);
  for (let column = 0; column < side; column++) line(re, im, column, side, side, inverse);
  if (!inverse) return;
  const all = side * side;
  for (let i = 0; i < all; i++) {
    re[i]! /= all;
    im[i]! /= all;
  }
}

function line(
  re: Float64Array,
  im: Float64Array,
  from: number,
  step: number,
  length: number,
  inverse: boolean,
): void {
  for (let i = 1, j = 0; i < length; i++) {
    let bit = length >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i >= j) continue;
    const [a, b] = [from + i * step, from + j * step];
    [re[a], re[b]] = [re[b]!, re[a]!];
    [im[a], im[b]] = [im[b]!, im[a]!];
  }
  for (let size = 2; size <= length; size *= 2) {
    const angle = ((inverse ? 2 : -2) * Math.PI) / size;
    const [turnRe, turnIm] = [Math.cos(angle), Math.sin(angle)];
    for (let start = 0; start < length; start += size) {
      let [wRe, wIm] = [1, 0];
      for (let k = 0; k < size / 2; k++) {
        const a = from + (start + k) * step;
        const b = a + (size / 2) * step;
        const [bRe, bIm] = [re[b]! * wRe - im[b]! * wIm, re[b]! * wIm + im[b]! * wRe];
        re[b] = re[a]! - bRe;
        im[b] = im[a]! - bIm;
        re[a]! += bRe;
        im[a]! += bIm;
        [wRe, wIm] = [wRe * turnRe - wIm * turnIm, wRe * turnIm + wIm * turnRe];
      }
    }
  }
}
