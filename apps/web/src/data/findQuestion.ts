import { FIND_HEADINGS, type FindHeading } from '@arkiv/core';

/** What is looked for in the archive, and how it is shown: all of it stands in the address. */
export interface FindQuestion {
  line: string;
  rejects: boolean;
  bin: boolean;
  heading: FindHeading;
  oldestFirst: boolean;
  /** one frame stands for each take */
  fold: boolean;
  /** id of a frame whose like is looked for; missing: none */
  like?: string;
  /** id of the album that is looked into; missing: all of the archive */
  album?: string;
}

/** Asks for all of the archive; put over another question it takes away all that this one asks. */
export const NO_QUESTION: FindQuestion = {
  ...{ line: '', rejects: false, bin: false, heading: 'shoot', oldestFirst: false, fold: false },
  ...{ like: undefined, album: undefined },
};

/** How frames stand where nothing else is said: in an album as they are arranged. */
const headingIn = (album: string | undefined): FindHeading => (album ? 'album' : NO_QUESTION.heading);

/** The question that asks for all of an album. */
export const albumQuestion = (album: string): FindQuestion => ({
  ...NO_QUESTION,
  album,
  heading: headingIn(album),
});

/** A question as the query of an address, without its question mark. */
export function questionText(question: FindQuestion): string {
  const { line, rejects, bin, heading, oldestFirst, fold, like, album } = question;
  const query = new URLSearchParams();
  if (album) query.set('in', album);
  if (line.trim() !== '') query.set('q', line.trim());
  if (like) query.set('like', like);
  if (rejects) query.set('rejects', '1');
  if (bin) query.set('bin', '1');
  if (heading !== headingIn(album)) query.set('by', heading);
  if (oldestFirst) query.set('first', 'oldest');
  if (fold) query.set('takes', '1');
  return query.toString();
}

/** Where a question is asked: an album has an address of its own. */
export function findAddress(question: FindQuestion): string {
  const query = new URLSearchParams(questionText(question));
  query.delete('in');
  const text = query.toString();
  return `${question.album ? `/albums/${question.album}` : '/find'}${text === '' ? '' : `?${text}`}`;
}

/** The question that an address asks. `within`: the album whose address it is. */
export function questionOf(search: string, within?: string): FindQuestion {
  const query = new URLSearchParams(search);
  const album = within ?? query.get('in') ?? undefined;
  const by = query.get('by') as FindHeading;
  const like = query.get('like');
  return {
    line: query.get('q') ?? '',
    rejects: query.has('rejects'),
    bin: query.has('bin'),
    heading: FIND_HEADINGS.includes(by) && (by !== 'album' || album) ? by : headingIn(album),
    oldestFirst: query.get('first') === 'oldest',
    fold: query.has('takes'),
    ...(like === null ? {} : { like }),
    ...(album ? { album } : {}),
  };
}
