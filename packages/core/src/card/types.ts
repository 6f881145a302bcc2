/** One file's part in its frame. `edit` comes back from editing; `other` is anything that is not a picture. */
export type AssetRole = 'raw' | 'jpeg' | 'clip' | 'note' | 'sidecar' | 'edit' | 'other';

/** A file as it lies on a card. `path` is relative to the card's root, with `/`, see rawName. */
export interface CardFile {
  path: string;
  /** bytes */
  size: number;
  mtimeMillis: number;
}

/** A file with its part in a frame. */
export interface CardFrameFile extends CardFile {
  role: AssetRole;
}

/** The files of one press of the shutter, before intake. `key` is unique on its card. */
export interface CardFrame {
  key: string;
  directory: string;
  /** the base name as the camera gave it */
  base: string;
  files: CardFrameFile[];
}

export interface CardListing {
  frames: CardFrame[];
  /** files that belong to no frame; they are copied all the same */
  extras: CardFrameFile[];
}
