import type { AssetRole } from './types';

/**
 * What a file is, by its extension (lower case, no dot). Only data. Raw extensions are those that the camera
 * makers' own documents name; everything that is not listed is copied as `other`.
 */
export const ROLE_BY_EXTENSION: Readonly<Record<string, AssetRole>> = {
  jpg: 'jpeg',
  jpeg: 'jpeg',
  jpe: 'jpeg',
  heic: 'jpeg',
  heif: 'jpeg',
  hif: 'jpeg',
  dng: 'raw',
  arw: 'raw',
  cr2: 'raw',
  cr3: 'raw',
  nef: 'raw',
  nrw: 'raw',
  orf: 'raw',
  pef: 'raw',
  raf: 'raw',
  rw2: 'raw',
  srw: 'raw',
  tif: 'raw',
  tiff: 'raw',
  mp4: 'clip',
  mov: 'clip',
  avi: 'clip',
  mxf: 'clip',
  mts: 'clip',
  wav: 'note',
  mp3: 'note',
  xmp: 'sidecar',
};

/** Files that operating systems leave on a card: never pictures, yet copied and reported like all others. */
export const SYSTEM_NAMES: ReadonlySet<string> = new Set(['.ds_store', 'thumbs.db', 'desktop.ini']);
