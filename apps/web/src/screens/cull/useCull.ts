import { describe, LABELS, matches, takesByTime, type MarkField, type MarkValue } from '@arkiv/core';
import { useCallback, useEffect, useMemo, useReducer, useRef, useState, useSyncExternalStore } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { labelNames } from '../../data/labels';
import { useSettings } from '../../data/live';
import { shootStore } from '../../data/shootStore';
import { listen } from '../../data/stream';
import { many } from '../../data/format';
import { CULL_KEYS, type CullCommand } from '../../keys/cullKeys';
import { belongsToControl, cameByKeys, isTyped } from '../../keys/ownKeys';
import {
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

const PREFIX = 'l';
/** Milliseconds in which the digit after L must come: long enough to look at the five letters. */
const PREFIX_MILLIS = 3000;
const BOUND_KEYS = [PREFIX, ...CULL_KEYS.map((k) => k.hotkey).filter((k) => !k.includes('>'))];

const placeKey = (shootId: string) => `arkiv.cull.${shootId}`;

/** Where the last look at this shoot ended, so that stopping costs nothing; or at the frame that the address names. */
function restore(shootId: string): CullState {
  try {
    const kept = JSON.parse(localStorage.getItem(placeKey(shootId)) ?? '{}') as Partial<CullState>;
    const { view, current, stepOn, surround, facts, cell, column, filter } = { ...START, ...kept };
    const asked = new URLSearchParams(location.search).get('frame');
    if (asked) return { ...START, view: 'single', current: asked, stepOn, surround, facts, cell, column };
    return { ...START, view, current, stepOn, surround, facts, cell, column, filter };
  } catch {
    return START;
  }
}

/** Everything Cull knows and does; the screen only draws it. */
export function useCull(shootId: string) {
  const store = shootStore(shootId);
  const shoot = useSyncExternalStore(store.subscribe, store.snapshot);
  const [state, dispatch] = useReducer(reduceCull, shootId, restore);
  const [notice, setNotice] = useState('');
  const across = useRef(1);
  const filter = useMemo(() => toFilter(state.filter), [state.filter]);
  const visible = useMemo(
    () => visibleFrames(shoot.frames, filter, state.held),
    [shoot.frames, filter, state.held],
  );
  const visibleIds = useMemo(() => visible.map((f) => f.id), [visible]);
  const current = nearest(shoot.frames, visible, state.current);
  const at = current ? visibleIds.indexOf(current) : -1;
  const selected = useMemo(
    () => state.selection.filter((id) => shoot.byId.has(id)),
    [state.selection, shoot.byId],
  );
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

  useEffect(() => {
    localStorage.setItem(
      placeKey(shootId),
      JSON.stringify({ view, current, stepOn, surround, facts, cell, column, filter: state.filter }),
    );
  }, [shootId, view, current, stepOn, surround, facts, cell, column, state.filter]);

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
    const targets = selected.length > 1 ? selected : [current];
    const operations = store.mark(targets, field, to);
    setNotice(targets.length > 1 ? `${many(operations.length, 'frame')} changed` : '');
    if (state.stepOn && targets.length === 1) {
      // Seen from the list as it was before the mark: the next one, wherever this one went.
      const next = visibleIds[at + 1];
      dispatch(next ? { type: 'go', id: next } : { type: 'marked', held: current });
      if (!next) setNotice('That was the last one shown');
    } else dispatch({ type: 'marked', held: current });
  };

  const back = (step: { ids: string[]; skipped: number } | null, words: string) => {
    if (!step) return setNotice(`Nothing to ${words}`);
    const [id] = step.ids;
    if (id) dispatch({ type: 'go', id });
    if (id) dispatch({ type: 'marked', held: id });
    setNotice(
      step.skipped > 0
        ? `${many(step.skipped, 'mark')} changed since elsewhere and stayed`
        : `${words}: ${many(step.ids.length, 'mark')}`,
    );
  };

  const rowStep = (by: 1 | -1) =>
    view === 'sheet' ? at + by * across.current : takeStep(visibleIds, takeOf, at, by);
  /** the frame that a step leads to; past either end there is none */
  const stepped = ({ by, row }: { by: 1 | -1; row?: boolean }) => visibleIds[row ? rowStep(by) : at + by];

  const run = (command: CullCommand): void => {
    if (command.do !== 'undo' && command.do !== 'redo') setNotice('');
    switch (command.do) {
      case 'step':
        return goTo(at + command.by);
      case 'row':
        return goTo(rowStep(command.by));
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
        return dispatch({ type: 'selectNone' });
      case 'size':
        return dispatch({ type: 'size', by: command.by });
    }
  };
  // Always the newest closure: keys bind once.
  const { data: settings } = useSettings();
  const latestNames = useRef<Record<string, string>>({});
  useEffect(() => void (latestNames.current = labelNames(settings)), [settings]);
  const latest = useRef(run);
  useEffect(() => {
    latest.current = run;
  });
  // L is a prefix: the digit after it chooses a label and no stars.
  const prefixUntil = useRef(0);
  useHotkeys(
    BOUND_KEYS,
    (event, handler) => {
      const name = [
        ...(handler.ctrl || handler.meta ? ['ctrl'] : []),
        ...(handler.shift ? ['shift'] : []),
        ...(handler.keys ?? []),
      ].join('+');
      const prefixed = event.timeStamp < prefixUntil.current && /^\d$/.test(name);
      prefixUntil.current = 0;
      const target = event.target as HTMLElement;
      // Escape leaves a field; the keys are the screen's again.
      if (name === 'escape' && isTyped(target)) return target.blur();
      if (belongsToControl(target, name, cameByKeys(target))) return;
      event.preventDefault();
      if (name === PREFIX) {
        prefixUntil.current = event.timeStamp + PREFIX_MILLIS;
        setNotice(
          `Label: ${LABELS.map((label, i) => `${i + 1} ${latestNames.current[label] ?? label}`).join(' · ')} · 0 none`,
        );
        return;
      }
      const wanted = prefixed ? `${PREFIX}>${name}` : name;
      const entry = CULL_KEYS.find((k) => k.hotkey === wanted);
      if (entry) latest.current(entry.command);
    },
    { preventDefault: false, enableOnFormTags: true },
  );

  const hides = describe(filter);
  const all = shoot.frames.length;
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
    goTo,
    run: (command: CullCommand) => latest.current(command),
    onAcross: useCallback((n: number) => {
      across.current = n;
    }, []),
    /** the sentence of the empty state, or null while frames are shown */
    empty: all > 0 && visible.length === 0 ? `All ${all} frames are hidden by: ${hides}.` : null,
    hiddenIds: useMemo(
      () => new Set(shoot.frames.filter((f) => !matches(filter, f)).map((f) => f.id)),
      [shoot.frames, filter],
    ),
  };
}
