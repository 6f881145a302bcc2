/** Goes up whenever a preview would come out differently; older ones are then made anew. */
export const MAKER_VERSION = 4;

/**
 * `thumb` fills a cell, `screen` a screen; `embedded` is what the camera put into the file, there at once; `full` has every
 * pixel that can be shown: the picture itself, or of a raw the largest that it holds.
 */
export const PREVIEW_SIZES = ['thumb', 'screen', 'embedded', 'full'] as const;
export type PreviewSize = (typeof PREVIEW_SIZES)[number];

/** Where a preview is asked for. The address names content and maker: what comes from it never changes. */
export function previewAddress(picture: string, size: PreviewSize): string {
  return `/api/previews/v${MAKER_VERSION}/${picture}/${size}`;
}
