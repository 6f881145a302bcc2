import { useEffect } from 'react';
import { useSWRConfig } from 'swr';
import useSWRInfinite from 'swr/infinite';
import type { Api } from './http';
import { listen } from './stream';
import { useGet } from './useGet';

export const useReaders = () => useGet('/readers');
export const useCard = (reader: string) => useGet(`/readers/${reader}/card`);
/** The card's frames by name, while their facts are still read. */
export const useListing = (reader: string) => useGet(`/readers/${reader}/listing`);
/** What a row about a card says; asked anew for each card. */
export const useCardSummary = (reader: string, card: string | null) =>
  useGet(card ? `/readers/${reader}/summary?card=${encodeURIComponent(card)}` : null);
/** Keys of the card's frames that are probably archived; asked anew for each card. */
export const useKnown = (reader: string, fingerprint: string | undefined) =>
  useGet(fingerprint ? `/readers/${reader}/known?card=${fingerprint}` : null);
/** What “copy now” would do: for a shoot, or for the whole archive. */
export const useMissing = (shootId?: string) =>
  useGet(shootId ? `/copies/missing?shootId=${shootId}` : '/copies/missing');
export const useKept = (shootId: string) => useGet(`/copies/shoots/${shootId}`);
/** Sidecars that drives have not got yet, and why. */
export const useWaitingSidecars = () => useGet('/marks/sidecars');
/** What an intake has proven so far, the newest frames first. */
export const useProvenFrames = (jobId: string) =>
  useGet(`/intakes/${jobId}/frames`, { keepPreviousData: true });
/** The card that came last, whole. */
export const useLatestArrival = () => useGet('/arrivals/latest');
export const useStandIns = () => useGet('/stand-ins');
/** Asked anew for each card: its name is part of the address. `card` null: nothing is asked. */
export const useClearance = (reader: string, card: string | null) =>
  useGet(card ? `/readers/${reader}/clearance?card=${encodeURIComponent(card)}` : null);
export const useVolumes = () => useGet('/volumes');
/** The newest shoots, a page of them. */
export const useShoots = () => useGet('/shoots');
/** Shoots with a step still to do, the oldest first. */
export const useOpenShoots = () => useGet('/shoots?open=true');
/** Shoots whose dates are nearest to a day. */
export const useShootsNear = (day: string) => useGet(`/shoots?near=${day}`);
/** All shoots in numbers, by month; of those alone that have these words in title, client, place or date. */
export const useShootTotals = (find = '') =>
  useGet(find ? `/shoots/totals?find=${encodeURIComponent(find)}` : '/shoots/totals', {
    keepPreviousData: true,
  });
/** Which shoots a list shows: those with words, of a year, a client or a place. */
export interface ShootsShown {
  find?: string;
  year?: string;
  client?: string;
  place?: string;
}

/** Shoots by page, the newest first. */
export function useShootPages(shown: ShootsShown) {
  const pages = useSWRInfinite<Api['ShootDto'][]>(
    (_: number, last: Api['ShootDto'][] | null) => {
      if (last?.length === 0) return null;
      const asked = new URLSearchParams({
        ...shown,
        ...(last ? { before: last.at(-1)!.id } : {}),
      }).toString();
      return `/shoots${asked ? `?${asked}` : ''}`;
    },
    { keepPreviousData: true, revalidateFirstPage: false },
  );
  const { mutate } = pages;
  useEffect(() => {
    // What happened while another screen stood was told to nobody here.
    void mutate();
    let timer: ReturnType<typeof setTimeout> | null = null;
    const again = () => {
      timer ??= setTimeout(() => {
        timer = null;
        void mutate();
      }, WAIT_MILLIS.frames);
    };
    // What is kept, and at which stage it is, changes with marks.
    const stops = (['shoots', 'frames', 'marks'] as const).map((type) => listen(type, again));
    return () => {
      stops.forEach((stop) => stop());
      if (timer) clearTimeout(timer);
    };
  }, [mutate]);
  return pages;
}
/** The piles, with how many frames are in each over all shoots. */
export const usePiles = () => useGet('/piles');
export const usePile = (id: string) => useGet(`/piles/${id}`);
/** What is in the bin, and what was forgotten with its files left. */
export const useBin = () => useGet('/bin');
/** Nothing tells of it when it changes: what is kept is shown, and asked for again, however soon one comes back. */
const ANEW = { dedupingInterval: 0 };
/** A page of frames that hold equal content; `after`: where the page before ended. */
export const useDuplicates = (after: string | null) =>
  useGet(after === null ? '/duplicates' : `/duplicates?after=${after}`, ANEW);
/** A page of frames that are one picture, processed in several ways; `after`: where the page before ended. */
export const useVariants = (after: string | null) =>
  useGet(after === null ? '/duplicates/variants' : `/duplicates/variants?after=${after}`, ANEW);
/** The passes over a shoot, the newest first. */
export const usePasses = (shootId: string) => useGet(`/shoots/${shootId}/passes`);
export const useShoot = (id: string | undefined) => useGet(id ? `/shoots/${id}` : null);
export const useSettings = () => useGet('/settings');
export const useJobs = () => useGet('/jobs');

/** What a person can say to a job. */
export type JobStep = 'pause' | 'resume' | 'cancel' | 'first' | 'retry' | 'seen';

export const isOpen = (job: Api['JobDto']): boolean =>
  ['queued', 'running', 'waiting', 'paused'].includes(job.state);

/** Lists of shoots and single ones. */
const SHOOTS = /^\/shoots(\/[^/]+)?(\?.*)?$/;

/** Which loaded data each event makes old. Loaded frames are kept by their own store and left alone here. */
const OLD_AFTER: Record<string, RegExp> = {
  shoots: new RegExp(`${SHOOTS.source}|^/shoots/[^/]+/decisions`),
  marks:
    /^\/arrivals|^\/piles\/|^\/shoots\/[^/]+\/galleries$|^\/intakes\/[^/]+\/frames$|handoffs\/(plan|heard)|^\/shoots\/[^/]+\/decisions|^\/deliveries\//,
  frames:
    /^\/carried\/results\/|^\/shoots(\/[^/]+)?(\?.*)?$|^\/albums\/held$|^\/arrivals|^\/intakes\/[^/]+\/frames$/,
  volumes:
    /^\/volumes|^\/carried$|^\/trail|^\/rebuild$|^\/bin|^\/marks\/sidecars$|^\/copies|^\/shoots(\/totals)?$|^\/stand-ins$|handoffs\/plan/,
  // Another card in the slot is another answer under the same address.
  readers: /^\/readers$|^\/readers\/[^/]+\/(card|listing)$|^\/uploads$|^\/stand-ins$/,
  uploads: /^\/uploads$|^\/uploads\/links$/,
  piles: /^\/piles/,
  albums: /^\/albums/,
  vocabulary: /^\/vocabulary/,
  bin: /^\/bin|^\/albums\/held$/,
  passes: /^\/shoots\/[^/]+\/passes$/,
  heard: /^\/shoots\/[^/]+\/handoffs\/heard$/,
  returns: /^\/shoots\/[^/]+\/returns|^\/returns\/|^\/deliveries\//,
  sent: /^\/shoots\/[^/]+\/sent$|^\/ledger/,
  destinations: /^\/destinations$/,
  gallery: /^\/shoots\/[^/]+\/(galleries|client-remarks)$|^\/galleries\/choosing$|^\/ledger/,
  mail: /^\/mail-account$|^\/stand-ins\/mailbox$|^\/shoots\/[^/]+\/messages$/,
  watch: /^\/watch$/,
  adopted: /^\/adopted$/,
  posted: /^\/ledger|^\/shoots\/[^/]+\/went-out$/,
  sidecars: /^\/marks\/sidecars$/,
  settings: /^\/settings|^\/shoots|^\/deliveries\//,
  reset: /./,
};

/** What the stream tells of marks, as far as lists show it. */
interface Told {
  shootId: string;
  counts: { frames: number; keepers: number; rejects: number };
  operations: readonly { kind: string }[];
}

/** Milliseconds after which keepers by stage are asked for again while somebody moves them: a list is no tally at each key. */
const STAGES_WAIT = 1500;

/** Milliseconds in which an answer may still be on its way; a list takes well under one second. */
const ON_ITS_WAY = 2000;
/** While a card is copied its frames arrive many a second: a count that moves once a second is quick enough. */
const WAIT_MILLIS: Record<string, number> = { frames: 1000 };

/** Keeps everything on screen true by the event stream; nothing is asked for on a timer. */
export function useLiveData(): void {
  const { mutate } = useSWRConfig();
  useEffect(() => {
    let askedAt = 0;
    const again = (pattern: RegExp) => {
      if (pattern.test('/shoots')) askedAt = Date.now();
      void mutate((key) => typeof key === 'string' && pattern.test(key));
    };
    const waiting = new Map<string, ReturnType<typeof setTimeout>>();
    const countStages = () => {
      if (waiting.has('stages')) return;
      waiting.set(
        'stages',
        setTimeout(() => {
          waiting.delete('stages');
          again(SHOOTS);
        }, STAGES_WAIT),
      );
    };
    const stops = Object.entries(OLD_AFTER).map(([type, pattern]) =>
      listen(type as 'shoots', () => {
        // Marks and frames come many a second while someone works: once in a while is enough for counts.
        if (waiting.has(type)) return;
        waiting.set(
          type,
          setTimeout(() => {
            waiting.delete(type);
            again(pattern);
          }, WAIT_MILLIS[type] ?? 150),
        );
      }),
    );
    stops.push(
      // The numbers of a shoot come with the marks: no list is asked for again at each key.
      listen<Told>('marks', ({ shootId, counts, operations }) => {
        const counted = (shoot: Api['ShootDto']) => {
          if (shoot.id !== shootId) return shoot;
          // Who becomes a keeper stands at the first stage.
          const [first = 0, ...others] = shoot.stages;
          if (others.some((frames) => frames > 0)) countStages();
          return { ...shoot, ...counts, stages: [first + counts.keepers - shoot.keepers, ...others] };
        };
        if (operations.some(({ kind }) => kind === 'stage')) countStages();
        // An answer that is still on its way would be dropped for this event: it is asked for again.
        const asked = Date.now() - askedAt < ON_ITS_WAY;
        for (const list of ['/shoots', '/shoots?open=true'])
          void mutate<Api['ShootDto'][]>(list, (shoots) => shoots?.map(counted), {
            revalidate: (shoots) => asked || shoots === undefined,
          });
        void mutate<Api['ShootDto']>(`/shoots/${shootId}`, (shoot) => shoot && counted(shoot), {
          revalidate: (shoot) => asked || shoot === undefined,
        });
      }),
      listen<Api['JobDto']>('job', (job) => {
        void mutate<Api['JobDto'][]>(
          '/jobs',
          (list) => (list ? [job, ...list.filter((j) => j.id !== job.id)] : list),
          // A list that is still on its way would be dropped for this event: it is asked for again.
          { revalidate: (list) => list === undefined },
        );
        if (['done', 'failed', 'cancelled', 'waiting', 'paused'].includes(job.state))
          again(
            job.kind === 'rebuild' || job.kind === 'carry'
              ? /./
              : job.kind === 'clear'
                ? /^\/(jobs\/|volumes|copies|readers\/)/
                : /^\/(jobs\/|intakes\/|shoots|adopted|trail|deliveries\/|ledger|volumes|copies|readers\/.*(clearance|known))/,
          );
      }),
    );
    return () => {
      stops.forEach((stop) => stop());
      waiting.forEach((timer) => clearTimeout(timer));
    };
  }, [mutate]);
}
