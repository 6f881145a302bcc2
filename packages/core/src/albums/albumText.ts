import { DEEPEST_ALBUM, type Album, type AlbumTree } from './album';

/** A frame as a text of albums names it: by whatever the text knows of it. */
export interface NamedFrame {
  /** its id here; missing: the text comes from elsewhere */
  id?: string;
  /** SHA-256 of the file that shows it, in lower case hexadecimal digits */
  sha256?: string;
  /** its name without folders, with or without its files' ending */
  name: string;
  /** the folders before its name, as the text writes them; empty: none */
  folder: string;
}

/** An album as a text says it. */
export interface WrittenAlbum {
  name: string;
  rule: string | null;
  /** which of its frames stands for it, by its index; null: none was chosen */
  lead: number | null;
  frames: NamedFrame[];
  albums: WrittenAlbum[];
}

interface JsonAlbum {
  name: string;
  rule?: string;
  lead?: number;
  frames?: { id?: string; sha256?: string; name: string; folder?: string }[];
  albums?: JsonAlbum[];
}

/** What stands at the head of the JSON, so that nobody takes another text for it. */
const FORMAT = 'arkiv-albums';
const SCHEMA = 1;

/** Albums as JSON, those of one parent or all; docs/formats.md says how. `framesOf`: in their order. */
export function albumsAsJson(
  tree: AlbumTree,
  from: readonly Album[],
  archive: { id: string; name: string },
  framesOf: (album: Album) => readonly NamedFrame[],
): string {
  const written = (album: Album): JsonAlbum => {
    const frames = framesOf(album);
    const lead = frames.findIndex(({ id }) => id !== undefined && id === album.lead);
    const below = tree.children(album.id).map(written);
    return {
      name: album.name,
      ...(album.rule === null ? {} : { rule: album.rule }),
      ...(lead < 0 ? {} : { lead }),
      ...(frames.length > 0
        ? {
            frames: frames.map(({ id, sha256, name, folder }) => ({
              id,
              sha256,
              name,
              folder: folder || undefined,
            })),
          }
        : {}),
      ...(below.length > 0 ? { albums: below } : {}),
    };
  };
  return `${JSON.stringify({ format: FORMAT, schema: SCHEMA, archive, albums: from.map(written) }, null, 1)}\n`;
}

/** Frames as a list of names, one a line, each with its folders. */
export const framesAsNames = (frames: readonly NamedFrame[]): string =>
  frames.map(({ folder, name }) => `${folder === '' ? '' : `${folder}/`}${name}\n`).join('');

/** Why a text says no albums, with the line where it says so. */
export class AlbumTextError extends Error {}

/** Frames that are read of one text: as many as a large archive's favourites. */
const MOST_FRAMES = 200_000;

/**
 * What a text says: JSON as {@link albumsAsJson} writes it, or names or paths, one a line, which are one album by the name of
 * their file. Throws {@link AlbumTextError}.
 */
export function albumsFromText(text: string, fileName: string): WrittenAlbum[] {
  const read = text.replace(/^\uFEFF/, '');
  const albums = /^\s*[[{]/.test(read) ? albumsFromJson(read) : [albumOfNames(read, fileName)];
  const count = (all: readonly WrittenAlbum[]): number =>
    all.reduce((sum, { frames, albums: below }) => sum + frames.length + count(below), 0);
  if (count(albums) > MOST_FRAMES)
    throw new AlbumTextError(`It names ${count(albums)} frames; ${MOST_FRAMES} are read at once. Part it.`);
  return albums;
}

/** What an album of a list is called, by the list's file. */
export const albumNameOf = (fileName: string): string =>
  frameOfPath(fileName)
    .name.replace(/\.[^.]+$/, '')
    .trim()
    .slice(0, LONGEST_NAME) || 'A list';

function albumOfNames(text: string, fileName: string): WrittenAlbum {
  const frames = text
    .split(/\r\n|\n|\r/)
    .map((line) => line.trim().replace(/^"(.*)"$/, '$1'))
    .filter((line) => line !== '' && !line.startsWith('#'))
    .map(frameOfPath);
  if (frames.length === 0) throw new AlbumTextError('No name stands in it: write one a line.');
  return {
    name: albumNameOf(fileName),
    rule: null,
    lead: null,
    frames,
    albums: [],
  };
}

function frameOfPath(path: string): NamedFrame {
  const parts = path.split(/[/\\]/).filter((part) => part !== '');
  return { name: parts.at(-1) ?? path, folder: parts.slice(0, -1).join('/') };
}

/** Letters of an album's name: a line in a list. */
export const LONGEST_NAME = 120;

function albumsFromJson(text: string): WrittenAlbum[] {
  let said: unknown;
  try {
    said = JSON.parse(text);
  } catch (error) {
    throw new AlbumTextError(`It begins as JSON and is none: ${(error as Error).message}`);
  }
  const { format, schema, albums } = (said ?? {}) as { format?: unknown; schema?: unknown; albums?: unknown };
  if (format !== FORMAT || !Array.isArray(albums))
    throw new AlbumTextError(`It is JSON, but no list of albums: “format” must be “${FORMAT}”.`);
  if (typeof schema === 'number' && schema > SCHEMA)
    throw new AlbumTextError(`A newer Arkiv wrote it (schema ${schema}; this one reads ${SCHEMA}).`);
  return albums.map((album, i) => albumOfJson(album, `albums[${i}]`, 1));
}

function albumOfJson(said: unknown, at: string, depth: number): WrittenAlbum {
  if (depth > DEEPEST_ALBUM)
    throw new AlbumTextError(`${at}: albums stand in each other ${DEEPEST_ALBUM} deep at most.`);
  const { name, rule, lead, frames = [], albums = [] } = (said ?? {}) as Record<string, unknown>;
  if (typeof name !== 'string' || name.trim() === '') throw new AlbumTextError(`${at} has no name.`);
  if (rule !== undefined && rule !== null && typeof rule !== 'string')
    throw new AlbumTextError(`${at}: its rule is no line of text.`);
  if (!Array.isArray(frames)) throw new AlbumTextError(`${at}: its frames are no list.`);
  if (!Array.isArray(albums)) throw new AlbumTextError(`${at}: its albums are no list.`);
  return {
    name: name.trim().slice(0, LONGEST_NAME),
    rule: typeof rule === 'string' ? rule : null,
    lead:
      typeof lead === 'number' && Number.isInteger(lead) && lead >= 0 && lead < frames.length ? lead : null,
    frames: frames.map((frame, i) => frameOfJson(frame, `${at}.frames[${i}]`)),
    albums: albums.map((album, i) => albumOfJson(album, `${at}.albums[${i}]`, depth + 1)),
  };
}

function frameOfJson(said: unknown, at: string): NamedFrame {
  const { id, sha256, name, folder } = (said ?? {}) as Record<string, unknown>;
  if (typeof name !== 'string' || name === '') throw new AlbumTextError(`${at} has no name.`);
  return {
    ...(typeof id === 'string' ? { id } : {}),
    ...(typeof sha256 === 'string' && /^[0-9a-f]{64}$/i.test(sha256) ? { sha256: sha256.toLowerCase() } : {}),
    ...{ name, folder: typeof folder === 'string' ? folder : '' },
  };
}
