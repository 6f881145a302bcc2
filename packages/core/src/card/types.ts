/**
 * One file's part in its frame: a camera's picture is an `original`, whatever its format; `edit` comes back from
 * editing; `other` belongs to no frame.
 */
export type AssetRole = 'original' | 'clip' | 'note' | 'sidecar' | 'edit' | 'other';

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
  /** short, lower case; empty where it is none that we know */
  format: string;
  /** whether the format is a camera's raw */
  raw: boolean;
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
