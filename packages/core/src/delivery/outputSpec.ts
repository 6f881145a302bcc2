export type MetadataChoice = 'none' | 'rights' | 'all';

/** How a delivered file is made from a frame. */
export interface OutputSpec {
  name: string;
  /** pixels of the longer side; a smaller picture is never blown up */
  longSide: number;
  /** JPEG quality 1…100 */
  quality: number;
  sharpen: boolean;
  /** name pattern; `{number}` runs over this delivery alone */
  pattern: string;
  metadata: MetadataChoice;
}

export const DEFAULT_OUTPUT_SPEC: OutputSpec = {
  name: 'Web 2,000 px',
  longSide: 2000,
  quality: 88,
  sharpen: true,
  pattern: '{shoot}_{number:3}',
  metadata: 'rights',
};

/** Long side limits: below 64 px nothing can be judged; 65,500 is the most a JPEG can hold (ITU-T T.81: 16 bit). */
export const LONG_SIDE_RANGE = [64, 65500] as const;

/** Size in pixels after fitting the longer side; never larger than the source. */
export function outputSize(
  width: number,
  height: number,
  longSide: number,
): { width: number; height: number } {
  const scale = Math.min(1, longSide / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}

/** Pixels of a print side: inches × pixels per inch. */
export function printPixels(inches: number, ppi: number): number {
  return Math.round(inches * ppi);
}
