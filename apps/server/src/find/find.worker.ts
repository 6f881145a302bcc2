// Finds frames in a thread of its own, with a read-only connection of its own: the server's thread never runs such a query.
import { parentPort, workerData } from 'node:worker_threads';
import Database from 'better-sqlite3';
import { expose } from 'comlink';
import nodeEndpoint from 'comlink/dist/umd/node-adapter';
import type { Facets, FoundFolders, FramesADay, Hash, Suggestion } from '@arkiv/core';
import { addFolding } from '../db/folding';
import { Finder, Overtaken, type FindAsked, type FindContext } from './finder';
import type { Changed, PicturedFrame } from './findRows';
import type { HeldAlbum } from './foundAlbums';

/** Kilobytes of pages: all frames are read once, and a page of them again and again. */
const CACHE = 16_384;

const database = new Database((workerData as { file: string }).file, { readonly: true, fileMustExist: true });
database.pragma(`cache_size = -${CACHE}`);
addFolding(database);
const finder = new Finder(database);
const overtaken = new Set<number>();

const api = {
  load: (): Promise<void> => finder.load(),
  refresh: (changed: Changed): Promise<void> => finder.refresh(changed),
  readShoots: (): void => finder.readShoots(),
  readVocabulary: (): void => finder.readVocabulary(),
  setOnline: (ids: readonly string[]): void => finder.setOnline(ids),
  forgetTakes: (shoots: readonly string[]): void => finder.forgetTakes(shoots),
  setLooked: (pictures: readonly string[]): void => finder.setLooked(pictures),
  overtake: (question: number): void => void overtaken.add(question),
  /**
   * What was found with its first frames as JSON, as it is sent: an archive of many shoots has as many headings, and the server's
   * thread has nothing to do with them. Null: the question was overtaken.
   */
  async find(
    question: number,
    asked: FindAsked,
    context: FindContext,
    first: number,
  ): Promise<string | null> {
    try {
      const { parts, ...found } = await finder.find(asked, context, () => overtaken.has(question));
      // What a part asks for is nobody's business but ours.
      const told = parts.map(({ from, to, words, kind, problem }) => ({ from, to, words, kind, problem }));
      const text = JSON.stringify({ ...found, parts: told });
      return `${text.slice(0, -1)},"page":${finder.page(found.token, 0, first)!}}`;
    } catch (error) {
      if (error instanceof Overtaken) return null;
      throw error;
    } finally {
      overtaken.delete(question);
    }
  },
  page: (token: string, from: number, count: number): string | null => finder.page(token, from, count),
  frames: (ids: readonly string[]): string => finder.frames(ids),
  ids: (token: string, most: number): string[] | null => finder.ids(token, most),
  nearest: (hash: Hash, most: number, within: number): { id: string; picture: string }[] =>
    finder.nearest(hash, most, within),
  pictures: (before: number | null, most: number): { frames: PicturedFrame[]; of: number } =>
    finder.pictures(before, most),
  held: (question: number, context: FindContext): Promise<HeldAlbum[]> =>
    finder.held(context, () => overtaken.has(question)),
  facets: (token: string): Facets | null => finder.facets(token),
  days: (year: number): FramesADay => finder.days(year),
  folders: (path: string): FoundFolders => finder.folders(path),
  suggestions: (line: string): Suggestion[] => finder.suggestions(line),
};
export type FindApi = typeof api;

expose(api, nodeEndpoint(parentPort!));
