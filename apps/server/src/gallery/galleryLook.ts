import { DEFAULT_OUTPUT_SPEC, type OutputSpec, type Watermark } from '@arkiv/core';

/** Long side of the largest picture, pixels: a telephone shows 2,800 at most, a desk 4,096. */
export const SIDES = [1024, 4096] as const;
/** What a large screen fills and no print does. */
export const USUAL_SIDE = 2048;
/** Long side of what a telephone shows first: its screen's width of some 430 points in three pixels each. */
const MIDDLE = 1280;
/** Long side of a picture among others: 200 points in two to three pixels each, some 15 kB. */
const SMALL = 480;

/** The sizes in which each picture of a gallery is made, with how their files' names end. */
export const SIZES = { large: 'jpg', middle: 'jpg', small: 'webp' } as const;
export type GallerySize = keyof typeof SIZES;
export const SIZE_NAMES = Object.keys(SIZES) as GallerySize[];

/** How a gallery's pictures are made. Who made them and whose they are is told, where they were taken never. */
export const lookOf = (side: number, watermark: Watermark | null): OutputSpec => ({
  ...DEFAULT_OUTPUT_SPEC,
  ...{ name: 'Gallery', size: { by: 'long', pixels: side }, format: 'jpeg', quality: 84 },
  ...{ sharpen: 'screen', space: 'srgb', watermark, metadata: 'rights' },
});

/** The specs of its sizes, in their order: all from one reading of the picture. */
export const specsOfLook = (look: OutputSpec): OutputSpec[] => [
  look,
  { ...look, size: { by: 'long', pixels: Math.min(MIDDLE, sideOf(look)) }, quality: 80 },
  { ...look, size: { by: 'long', pixels: SMALL }, format: 'webp', quality: 74, metadata: 'none' },
];

export const sideOf = ({ size }: OutputSpec): number => (size.by === 'long' ? size.pixels : USUAL_SIDE);
