import { activeAfter, paceOf, placesOfText, placesText, standingOf, type KeeperRules } from '@arkiv/core';
import { useCallback, useEffect, useMemo, useRef, useState, type Dispatch } from 'react';
import { useNavigate } from 'react-router';
import { ulid } from 'ulid';
import { get, post, type Api } from '../../../data/http';
import type { LoadedFrame } from '../../../data/frames';
import type { ShootState, ShootStore } from '../../../data/shootStore';
import { Tally, tallyKey } from '../../../data/tally';
import type { CullAction, CullState } from '../cullState';
import { writeProgress } from '../../../data/passProgress';
import { nextPart, passAddress, seenIn, shootOf, type NextPart } from '../../../data/passParts';

/** Milliseconds between two times that progress is written down: what a crash costs of it. */
const SAVE = 2000;
/** Milliseconds that a frame stands before it is seen: a held arrow goes by faster, and an eye needs as long. */
const LOOK = 200;

type Part = Api['PassPartDto'];

/** Letters of a name that the server takes: two compared passes' names in one may be more. */
const MOST_LETTERS = 200;

interface Running {
  id: string;
  name: string;
  /** which order of its frames this is */
  arranged: number;
  frames: readonly string[];
  /** the shoots that it goes over; the frames of each stand together */
  parts: readonly Part[];
  /** by id, its place among them */
  placeOf: ReadonlyMap<string, number>;
  seen: Set<number>;
  activeMillis: number;
  /** the last sign that somebody is at it */
  sign: number | null;
}

export interface Progress {
  name: string;
  total: number;
  seen: number;
  kept: number;
  rejected: number;
  perMinute: number | null;
  minutesLeft: number | null;
  /** which of its shoots this one is, from 1, and of how many */
  shoot: { nth: number; of: number };
}

export interface PassOf {
  /** the frames that it is about; null: no pass is on, or it is still fetched */
  only: ReadonlySet<string> | null;
  progress: Progress | null;
  /** `next`: of its shoots, with frames that were not seen; null: there is none */
  running: { isSeen: (id: string) => boolean; stop: () => void; next: () => NextPart | null } | null;
  /** what was seen is written down */
  save: () => Promise<void>;
  see: (ids: readonly string[]) => void;
  begin: (name: string, frames: readonly string[]) => Promise<void>;
  goOn: (id: string) => Promise<void>;
  stop: () => void;
}

const asRunning = (whole: Api['WholePassDto']): Running => {
  const { id, name, arranged, frames, parts, seen, total, activeMillis } = whole;
  return {
    ...{ id, name, arranged, frames, parts, activeMillis, sign: null },
    placeOf: new Map(frames.map((frame, place) => [frame, place])),
    seen: placesOfText(seen, total),
  };
};

/** A pass whose frames stand in another order by now; what was seen and not written down yet stays seen. */
async function anew(its: Running): Promise<Running> {
  const now = asRunning(await get(`/passes/${its.id}`));
  const seen = new Set([...now.seen, ...seenIn(now, its)]);
  return { ...now, seen, activeMillis: its.activeMillis, sign: its.sign };
}

interface Around {
  store: ShootStore;
  shoot: ShootState;
  rules: KeeperRules;
  state: CullState;
  dispatch: Dispatch<CullAction>;
}

/** The pass that one is in: what it is about, what was seen of it, how it goes; kept by the server as it goes. */
export function usePass(shootId: string, { store, shoot, rules, state, dispatch }: Around): PassOf {
  const [pass, setPass] = useState<Running | null>(null);
  const [, drawn] = useState(0);
  const dirty = useRef(false);
  const asked = state.pass;
  // Come back to, by a reload or from another screen, it goes on.
  useEffect(() => {
    if (asked === null || pass?.id === asked) return;
    let late = false;
    get(`/passes/${asked}`).then(
      (whole) => !late && setPass(asRunning(whole)),
      // It is not there any more, as after the database was put back: the shoot is shown as it is.
      () => !late && dispatch({ type: 'pass', id: null, at: null }),
    );
    return () => {
      late = true;
    };
  }, [asked, pass?.id, dispatch]);
  const on = asked !== null && pass?.id === asked ? pass : null;
  useEffect(() => {
    store.pass = on?.id ?? null;
    return () => void (store.pass = null);
  }, [store, on?.id]);

  const [tally] = useState(() => new Tally());
  const standing = useMemo(
    () => (frame: LoadedFrame) =>
      on?.placeOf.has(frame.id) ? [[tallyKey('standing', standingOf(rules, frame))]] : NONE,
    [on, rules],
  );
  const counts = on ? tally.of(shoot, standing) : null;
  const kept = counts?.of('standing', 'keeper') ?? 0;
  const rejected = counts?.of('standing', 'reject') ?? 0;

  // A mark is progress too.
  useEffect(() => {
    if (on) dirty.current = true;
  }, [on, kept, rejected]);
  const latest = useRef({ on, kept, rejected, at: state.current });
  useEffect(() => {
    latest.current = { on, kept, rejected, at: state.current };
  });
  const save = useCallback(
    async (ended: boolean) => {
      const { on: its, at, ...counted } = latest.current;
      if (!its || !(dirty.current || ended)) return;
      dirty.current = false;
      const write = ({ id, arranged, seen, activeMillis }: Running) =>
        writeProgress(id, {
          ...{ arranged, seen: placesText(seen), seenCount: seen.size, at, shootId, ...counted },
          ...{ activeMillis: Math.round(activeMillis), ended },
        });
      if (await write(its)) return;
      const now = await anew(its).catch(() => null);
      if (!now) return void (dirty.current = true);
      setPass((was) => (was === its ? now : was));
      await write(now);
    },
    [shootId],
  );
  const onId = on?.id;
  useEffect(() => {
    if (onId === undefined) return;
    const timer = setInterval(() => void save(false), SAVE);
    const left = () => void save(false);
    window.addEventListener('pagehide', left);
    return () => {
      clearInterval(timer);
      window.removeEventListener('pagehide', left);
      left();
    };
  }, [onId, save]);

  const see = useCallback((ids: readonly string[]) => {
    const { on: its } = latest.current;
    if (!its) return;
    const now = Date.now();
    its.activeMillis = activeAfter(its.activeMillis, its.sign, now);
    its.sign = now;
    for (const id of ids) {
      const place = its.placeOf.get(id);
      if (place !== undefined) its.seen.add(place);
    }
    dirty.current = true;
    drawn((n) => n + 1);
  }, []);
  const navigate = useNavigate();
  const start = useCallback(
    (whole: Api['WholePassDto']) => {
      const there = whole.at === null ? null : shootOf(whole, whole.at);
      if (there !== null && there !== shootId) return void navigate(passAddress(there, whole.id, whole.at!));
      setPass(asRunning(whole));
      dispatch({ type: 'pass', id: whole.id, at: whole.at });
    },
    [dispatch, navigate, shootId],
  );
  const begin = useCallback(
    async (name: string, frames: readonly string[]) =>
      start(
        await post('/passes', {
          id: ulid(),
          name: name.slice(0, MOST_LETTERS),
          over: { frames: [...frames] },
        }),
      ),
    [start],
  );
  const goOn = useCallback(async (id: string) => start(await get(`/passes/${id}`)), [start]);
  const stop = useCallback(() => {
    void save(true);
    dispatch({ type: 'pass', id: null, at: null });
  }, [save, dispatch]);
  const isSeen = useCallback((id: string) => {
    const its = latest.current.on;
    const place = its?.placeOf.get(id);
    return place !== undefined && its!.seen.has(place);
  }, []);
  const only = useMemo(() => on && new Set(on.frames), [on]);
  const next = useCallback(() => {
    const { on: its } = latest.current;
    return its && nextPart(its, shootId);
  }, [shootId]);
  const running = useMemo(
    () => (onId === undefined ? null : { isSeen, stop, next }),
    [onId, isSeen, stop, next],
  );
  const progress: Progress | null = on && {
    ...{ name: on.name, total: on.frames.length, seen: on.seen.size },
    kept: kept + elsewhere(on, shootId, 'kept'),
    rejected: rejected + elsewhere(on, shootId, 'rejected'),
    ...paceOf({ total: on.frames.length, seen: on.seen.size, activeMillis: on.activeMillis }),
    shoot: { nth: on.parts.findIndex((part) => part.shootId === shootId) + 1, of: on.parts.length },
  };
  const write = useCallback(() => save(false), [save]);
  return { only, progress, running, save: write, see, begin, goOn, stop };
}

/** What the other shoots of a pass counted when they were looked at last. */
const elsewhere = ({ parts }: Running, shootId: string, key: 'kept' | 'rejected'): number =>
  parts.reduce((sum, part) => (part.shootId === shootId ? sum : sum + part[key]), 0);

const NONE: readonly never[] = [];

/** What stands large for a moment was seen. */
export function useLooked(
  { see, running }: PassOf,
  { view, panes }: Pick<CullState, 'view' | 'panes'>,
  current: string | null,
): void {
  const looked = view === 'side' ? panes.join(' ') : view === 'sheet' ? '' : (current ?? '');
  useEffect(() => {
    if (!running || looked === '') return;
    const timer = setTimeout(() => see(looked.split(' ')), LOOK);
    return () => clearTimeout(timer);
  }, [running, looked, see]);
}
