/** From sRGB's coded value (0…1) to linear light (IEC 61966-2-1). */
export const linearOf = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

/** From linear light to sRGB's coded value, going on beyond 1. */
export const codedOf = (x: number): number => (x <= 0.0031308 ? x * 12.92 : 1.055 * x ** (1 / 2.4) - 0.055);
