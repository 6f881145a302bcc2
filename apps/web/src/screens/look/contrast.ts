/** Relative luminance of an sRGB colour `#rrggbb` (WCAG 2.2). */
export function luminance(colour: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const s = parseInt(colour.slice(at, at + 2), 16) / 255;
    return s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
}

/** Contrast ratio of two colours, 1 to 21 (WCAG 2.2, 1.4.3). */
export function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x);
  return (light! + 0.05) / (dark! + 0.05);
}
