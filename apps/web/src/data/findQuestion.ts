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
}

export const NO_QUESTION: FindQuestion = {
  ...{ line: '', rejects: false, bin: false, heading: 'shoot', oldestFirst: false, fold: false },
};

/** A question as the query of an address, without its question mark. */
export function questionText({ line, rejects, bin, heading, oldestFirst, fold, like }: FindQuestion): string {
  const query = new URLSearchParams();
  if (line.trim() !== '') query.set('q', line.trim());
  if (like) query.set('like', like);
  if (rejects) query.set('rejects', '1');
  if (bin) query.set('bin', '1');
  if (heading !== NO_QUESTION.heading) query.set('by', heading);
  if (oldestFirst) query.set('first', 'oldest');
  if (fold) query.set('takes', '1');
  return query.toString();
}

/** The question that an address asks. */
export function questionOf(search: string): FindQuestion {
  const query = new URLSearchParams(search);
  const by = query.get('by') as FindHeading;
  const like = query.get('like');
  return {
    line: query.get('q') ?? '',
    rejects: query.has('rejects'),
    bin: query.has('bin'),
    heading: FIND_HEADINGS.includes(by) ? by : NO_QUESTION.heading,
    oldestFirst: query.get('first') === 'oldest',
    fold: query.has('takes'),
    ...(like === null ? {} : { like }),
  };
}
