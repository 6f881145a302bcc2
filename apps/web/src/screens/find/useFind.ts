import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { findAddress, questionOf, questionText, type FindQuestion } from '../../data/findQuestion';
import { SHOWN_IN_FIND } from '../../data/frameSource';
import type { FrameColumns } from '../../data/frames';
import { ApiFailure, get, postUntil, type Api } from '../../data/http';
import { shootStore } from '../../data/shootStore';
import { listen } from '../../data/stream';
import { FoundPages } from './foundPages';

export interface Result {
  question: FindQuestion;
  found: Api['FoundDto'];
  pages: FoundPages;
}

/** Milliseconds of rest after which the address follows what is typed, and after which results of before are looked for again. */
const REST = 300;
const AGAIN = 1000;
/** Milliseconds after which an answer is waited for: a million frames take a tenth of it. */
const WAITS = 400;
/** Milliseconds between two looks at how far the archive is read. */
const READING = 700;

/** What is looked for, as the address says and hands change it, and what was found. `album`: the one whose address it is. */
export function useFind(album: string | undefined) {
  const { search, pathname } = useLocation();
  const navigate = useNavigate();
  const [question, setQuestion] = useState<FindQuestion>(() => questionOf(search, album));
  const [result, setResult] = useState<Result | null>(null);
  const [error, setError] = useState<Error | null>(null);
  /** counts up when the same is to be looked for again */
  const [again, setAgain] = useState(0);
  const [waiting, setWaiting] = useState(false);
  const store = shootStore(SHOWN_IN_FIND);

  // Back, Forward and links lead to what their address asks.
  const here = `${pathname}${search}`;
  const written = useRef(here);
  useEffect(() => {
    if (here === written.current) return;
    written.current = here;
    setQuestion(questionOf(search, album));
  }, [here, search, album]);
  // Pressed before the last step was drawn, Back leads to what is drawn still: the router sees no change.
  useEffect(() => {
    const back = () => {
      if (window.location.pathname !== pathname) return;
      const asked = questionOf(window.location.search, album);
      written.current = findAddress(asked);
      setQuestion(asked);
    };
    window.addEventListener('popstate', back);
    return () => window.removeEventListener('popstate', back);
  }, [pathname, album]);
  const text = questionText(question);
  const within = question.album !== undefined;
  const step = useRef(false);
  useEffect(() => {
    const timer = setTimeout(
      () => {
        const wanted = findAddress(questionOf(text));
        if (wanted === written.current || window.location.pathname !== pathname) return;
        written.current = wanted;
        // What is typed letter by letter is one step; what is pressed is one of its own.
        void navigate(wanted, { replace: !step.current });
        step.current = false;
      },
      step.current ? 0 : REST,
    );
    return () => clearTimeout(timer);
  }, [text, navigate, pathname]);

  useEffect(() => {
    const asking = new AbortController();
    const { signal } = asking;
    // A browser has six ways to a server: pictures that are waited for make room for the answer.
    const room = setTimeout(() => setWaiting(true), WAITS);
    const answered = (): void => {
      clearTimeout(room);
      setWaiting(false);
    };
    postUntil(signal, '/find', { ...question, typing: true }).then(
      (found) => {
        if (signal.aborted || found === null) return;
        answered();
        const pages = new FoundPages(
          found.token,
          found.count,
          store,
          found.page as unknown as FrameColumns,
          (failure) =>
            // What was found is not kept any more: it is looked for again.
            failure instanceof ApiFailure && failure.status === 410
              ? setAgain((n) => n + 1)
              : setError(failure),
        );
        setResult({ question, found, pages });
        setError(null);
      },
      (failure: Error) => {
        if (signal.aborted) return;
        answered();
        setError(failure);
      },
    );
    return () => {
      clearTimeout(room);
      asking.abort();
    };
    // The question by its text: a new object that asks the same is the same.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [question.line, text, again, store]);

  // While the archive is still being read, more may be found every moment.
  const reading = result?.found.reading ?? null;
  useEffect(() => {
    if (reading === null) return;
    const timer = setTimeout(() => setAgain((n) => n + 1), READING);
    return () => clearTimeout(timer);
  }, [reading]);

  // What comes, goes or is moved may be found since, or not any more. Marks change nothing under the hand that makes them.
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | null = null;
    const soon = () => {
      timer ??= setTimeout(() => {
        timer = null;
        setAgain((n) => n + 1);
      }, AGAIN);
    };
    const stops = (['frames', 'bin', 'vocabulary', 'shoots', 'reset'] as const).map((type) =>
      listen(type, soon),
    );
    // What is put into the album, arranged in it or taken out of it is seen at once.
    if (within) stops.push(listen('albums', () => setAgain((n) => n + 1)));
    return () => {
      stops.forEach((stop) => stop());
      if (timer) clearTimeout(timer);
    };
  }, [within]);

  const change = useCallback((next: Partial<FindQuestion>, isStep = true) => {
    step.current ||= isStep;
    setQuestion((now) => ({ ...now, ...next }));
  }, []);
  return { question, change, result, error, store, text, waiting };
}

/** How many of the found frames have each value; asked once the results are there, and of the newest result alone. */
export function useFacets(token: string | undefined): readonly Api['FoundFacetDto'][] {
  const [facets, setFacets] = useState<readonly Api['FoundFacetDto'][]>(NONE);
  useEffect(() => {
    if (token === undefined) return;
    let wanted = true;
    const timer = setTimeout(() => {
      // Those of before stay in sight meanwhile.
      get(`/find/${token}/facets`).then(
        (found) => wanted && setFacets(found),
        () => undefined,
      );
    }, FACETS);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [token]);
  return facets;
}
const NONE: readonly Api['FoundFacetDto'][] = [];
/** Milliseconds that results are at rest before they are counted: letters come faster. */
const FACETS = 120;

/** What could be typed further; nothing while the line rests. */
export function useSuggestions(line: string, wanted: boolean): readonly Api['SuggestionDto'][] {
  const [found, setFound] = useState<{ line: string; list: readonly Api['SuggestionDto'][] }>({
    line: '',
    list: [],
  });
  useEffect(() => {
    if (!wanted || line.trim() === '') return;
    let is = true;
    get(`/find/suggestions?line=${encodeURIComponent(line)}`).then(
      (list) => is && setFound({ line, list }),
      () => undefined,
    );
    return () => {
      is = false;
    };
  }, [line, wanted]);
  return useMemo(() => (wanted && line.trim() !== '' ? found.list : []), [wanted, line, found]);
}

/** The frames of a result as they are known by now. */
export const usePages = (pages: FoundPages | undefined): object =>
  useSyncExternalStore(pages?.subscribe ?? NEVER, pages?.snapshot ?? NOTHING);
const NEVER = () => () => undefined;
const EMPTY = {};
const NOTHING = () => EMPTY;
