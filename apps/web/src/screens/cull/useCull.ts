import { describe, LABELS, matches, takesByTime, type MarkField, type MarkValue } from '@arkiv/core';
import { useCallback, useEffect, useMemo, useReducer, useRef, useState, useSyncExternalStore } from 'react';
import { useSearchParams } from 'react-router';
import { labelNames } from '../../data/labels';
import { useSettings } from '../../data/live';
import { shootStore, type Step } from '../../data/shootStore';
import { listen } from '../../data/stream';
import { many } from '../../data/format';
import { boundTo, LABEL_PREFIX, repeats, type CullCommand } from '../../keys/cullKeys';
import { useScreenKeys } from '../../keys/useScreenKeys';
import {
  filterChips,
  nearest,
  reduceCull,
  START,
  takePlaces,
  takeStep,
  toFilter,
  NO_FILTER,
  visibleFrames,
  type CullState,
} from './cullState';

const placeKey = (shootId: string) => `arkiv.cull.${shootId}`;

/**
 * Where the last look at this shoot ended, so that stopping costs nothing; or at the frame that the address names. This
 * window's own place first: another window may stand elsewhere in the same shoot.
 */
function restore(shootId: string): CullState {
  try {
    const text = sessionStorage.getItem(placeKey(shootId)) ?? localStorage.getItem(placeKey(shootId));
    const kept = JSON.parse(text ?? '{}') as Partial<CullState>;
    const { view, current, stepOn, surround, facts, cell, column, filter } = { ...START, ...kept };
    const asked = new URLSearchParams(location.search).get('frame');
    if (asked) return { ...START, view: 'single', current: asked, stepOn, surround, facts, cell, column };
    return { ...START, view, current, stepOn, surround, facts, cell, column, filter };
  } catch {
    return START;
  }
}

function keep(shootId: string, place: object): void {
  const text = JSON.stringify(place);
  sessionStorage.setItem(placeKey(shootId), text);
  localStorage.setItem(placeKey(shootId), text);
}

/** Frames that a screenful is in the single view. */
const PAGE = 10;

const markWords = (field: MarkField, to: MarkValue): string => {
  if (field === 'stars') return to === 0 ? 'no stars' : `${to}★`;
  if (field === 'label') return to === null ? 'no label' : `label ${to}`;
  return String(to);
};

function stepWords({ ids, skipped, elsewhere }: Step, words: string): string {
  const said = [`${words}: ${many(ids.length, 'mark')}`];
  if (elsewhere > 0) said.push(`${many(elsewhere, 'frame')} of them in another shoot now`);
  if (skipped > 0) said.push(`${many(skipped, 'mark')} changed since elsewhere and stayed`);
  return said.join(' · ');
}

/** Everything Cull knows and does; the screen only draws it. */
export function useCull(shootId: string) {
  const store = shootStore(shootId);
  const shoot = useSyncExternalStore(store.subscribe, store.snapshot);
  const [state, dispatch] = useReducer(reduceCull, shootId, restore);
  const [notice, setNotice] = useState('');
  /** L was pressed: the next key chooses a label */
  const [prefix, setPrefix] = useState(false);
  /** said of a mark on several frames, with the way back, until something else is marked */
  const [offer, setOffer] = useState('');
  const across = useRef({ across: 1, rows: 1 });
  const filter = useMemo(() => toFilter(state.filter), [state.filter]);
  const visible = useMemo(
    () => visibleFrames(shoot.frames, filter, state.held),
    [shoot.frames, filter, state.held],
  );
  const visibleIds = useMemo(() => visible.map((f) => f.id), [visible]);
  const current = nearest(shoot.frames, visible, state.current);
  const at = current ? visibleIds.indexOf(current) : -1;
  // A mark goes to what is seen: what the filter hides, and what the single view does not show, gets none.
  const selected = useMemo(() => {
    const seen = new Set(visibleIds);
    return state.view === 'sheet' ? state.selection.filter((id) => seen.has(id)) : [];
  }, [state.view, state.selection, visibleIds]);
  const { view, stepOn, surround, facts, cell, column } = state;

  // Marks change the frames but not the takes: these are found once for each loading.
  const takes = useMemo(
    () =>
      takesByTime(
        shoot.frames.map(({ id, serial, body, instant }) => ({ id, body: serial ?? body, instant })),
      ),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- see above
    [shoot.loads],
  );
  const takeOf = useMemo(() => new Map(takes.flatMap(({ ids }, i) => ids.map((id) => [id, i]))), [takes]);

  useEffect(
    () => keep(shootId, { view, current, stepOn, surround, facts, cell, column, filter: state.filter }),
    [shootId, view, current, stepOn, surround, facts, cell, column, state.filter],
  );

  // The frame that a link named is gone to once: a reload comes back to where one was.
  const [search, setSearch] = useSearchParams();
  useEffect(() => {
    if (search.has('frame')) setSearch({}, { replace: true });
  }, [search, setSearch]);

  // A sidecar that could not be written, or that two programs changed, is said where the marks are made.
  useEffect(
    () =>
      listen<{ frameId: string; message: string }>('sidecar', ({ frameId, message }) => {
        if (store.snapshot().byId.has(frameId)) setNotice(message);
      }),
    [store],
  );

  const goTo = useCallback(
    (index: number) => {
      const id = visibleIds[Math.min(visibleIds.length - 1, Math.max(0, index))];
      if (id) dispatch({ type: 'go', id });
    },
    [visibleIds],
  );

  const mark = (field: MarkField, to: MarkValue) => {
    if (!current) return;
    const targets = selected.length > 0 ? selected : [current];
    const operations = store.mark(targets, field, to, {
      current,
      selection: targets.length > 1 ? targets : [],
    });
    const several = targets.length > 1;
    setOffer(several ? `${many(operations.length, 'frame')} changed: ${markWords(field, to)}.` : '');
    setNotice('');
    if (state.stepOn && !several && targets[0] === current) {
      // Seen from the list as it was before the mark: the next one, wherever this one went.
      const next = visibleIds[at + 1];
      dispatch(next ? { type: 'go', id: next } : { type: 'marked', held: [current] });
      if (!next) setNotice('That was the last one shown');
    } else dispatch({ type: 'marked', held: targets });
  };

  const back = (stepping: Promise<Step | null>, words: string) => {
    setOffer('');
    void stepping.then(
      (step) => {
        if (!step) return setNotice(`Nothing to ${words}`);
        // Those that are in another shoot by now are not gone to.
        const { place, ids } = step;
        const to = place?.current ?? ids[0] ?? null;
        if (to !== null && store.snapshot().byId.has(to))
          dispatch({ type: 'return', place: { current: to, selection: place?.selection ?? [] } });
        setNotice(stepWords(step, words));
      },
      (error: Error) => setNotice(`Could not ${words}: ${error.message}`),
    );
  };

  const rowStep = (by: 1 | -1) =>
    view === 'sheet' ? at + by * across.current.across : takeStep(visibleIds, takeOf, at, by);
  /** the frame that a step leads to; past either end there is none */
  const stepped = ({ by, row }: { by: 1 | -1; row?: boolean }) => visibleIds[row ? rowStep(by) : at + by];

  const run = (command: CullCommand): void => {
    if (command.do !== 'undo' && command.do !== 'redo') setNotice('');
    switch (command.do) {
      case 'step':
        return goTo(at + command.by);
      case 'row':
        return goTo(rowStep(command.by));
      case 'page':
        return goTo(
          at + command.by * (view === 'sheet' ? across.current.across * across.current.rows : PAGE),
        );
      case 'end':
        return goTo(command.to === 'first' ? 0 : visibleIds.length - 1);
      case 'extend': {
        const id = stepped(command);
        return id ? dispatch({ type: 'pick', id, how: 'range', visible: visibleIds }) : undefined;
      }
      case 'walk': {
        const id = stepped(command);
        return id ? dispatch({ type: 'walk', id }) : undefined;
      }
      case 'selectToggle':
        return current
          ? dispatch({ type: 'pick', id: current, how: 'toggle', visible: visibleIds })
          : undefined;
      case 'verdict':
      case 'stars':
      case 'label':
        return mark(command.do, command.to);
      case 'view':
        return dispatch({ type: 'view', view: command.to });
      case 'undo':
        return back(store.undo(), 'undo');
      case 'redo':
        return back(store.redo(), 'redo');
      case 'facts':
      case 'surround':
        return dispatch({ type: 'cycle', what: command.do });
      case 'stepOn':
      case 'drawer':
      case 'column':
      case 'keys':
        return dispatch({ type: 'toggle', what: command.do });
      case 'filter':
        return dispatch({ type: 'openDrawer' });
      case 'showAll':
        return dispatch({ type: 'filter', filter: NO_FILTER });
      case 'selectAll':
        return dispatch({ type: 'selectAll', visible: visibleIds });
      case 'selectNone':
        // One Escape, one thing left: the drawer, then the line of the last mark, then the selection.
        if (state.drawer) return dispatch({ type: 'closeDrawer' });
        if (offer) return setOffer('');
        return dispatch({ type: 'selectNone' });
      case 'size':
        return dispatch({ type: 'size', by: command.by });
    }
  };
  const { data: settings } = useSettings();
  const latest = useRef(run);
  useEffect(() => {
    latest.current = run;
  });
  useScreenKeys((names, event) => {
    // L is a prefix: the digit after it chooses a label and no stars. It stands until the next key, as it is shown.
    if (prefix) {
      if (event.repeat) return true;
      setPrefix(false);
      const labelled = boundTo(names, `${LABEL_PREFIX}>`);
      if (labelled) latest.current(labelled.command);
      if (labelled || names.includes('escape')) return true;
      const digit = names.find((name) => /^\d$/.test(name));
      if (digit !== undefined) {
        setNotice(`There is no label ${digit}`);
        return true;
      }
    }
    if (names.includes(LABEL_PREFIX)) {
      if (!event.repeat) setPrefix(true);
      setNotice('');
      return true;
    }
    const entry = boundTo(names);
    if (!entry) return false;
    if (!event.repeat || repeats(entry.command)) latest.current(entry.command);
    return true;
  });
  // A click means something else than the digit that L waits for.
  useEffect(() => {
    if (!prefix) return;
    const leave = () => setPrefix(false);
    window.addEventListener('pointerdown', leave);
    return () => window.removeEventListener('pointerdown', leave);
  }, [prefix]);

  const all = shoot.frames.length;
  const names: Record<string, string> = labelNames(settings);
  return {
    shoot,
    state,
    dispatch,
    visible,
    visibleIds,
    current: current ? (shoot.byId.get(current) ?? null) : null,
    at,
    /** ids of the current frame's take, in order of time */
    take: current ? (takes[takeOf.get(current) ?? -1]?.ids ?? [current]) : [],
    places: useMemo(() => takePlaces(visibleIds, takeOf), [visibleIds, takeOf]),
    selected,
    notice,
    /** what the digits after L mean, while one is waited for */
    prompt: prefix
      ? `Label: ${LABELS.map((label, i) => `${i + 1} ${names[label] ?? label}`).join(' · ')} · 0 none`
      : '',
    offer,
    endOffer: useCallback(() => setOffer(''), []),
    chips: useMemo(() => filterChips(state.filter), [state.filter]),
    goTo,
    run: (command: CullCommand) => latest.current(command),
    onLayout: useCallback((layout: { across: number; rows: number }) => {
      across.current = layout;
    }, []),
    /** the sentence of the empty state, or null while frames are shown */
    empty: all > 0 && visible.length === 0 ? `All ${all} frames are hidden by: ${describe(filter)}.` : null,
    hiddenIds: useMemo(
      () => new Set(shoot.frames.filter((f) => !matches(filter, f)).map((f) => f.id)),
      [shoot.frames, filter],
    ),
  };
}
