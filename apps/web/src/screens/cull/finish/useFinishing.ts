import {
  finishOf,
  finishText,
  FINISH_FIELDS,
  SHAPE_FIELDS,
  type Finish,
  type FinishField,
  type FinishValue,
} from '@arkiv/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { LoadedFrame } from '../../../data/frames';
import { useKeptState } from '../../../parts/useKeptState';
import type { Seen } from '../seen';
import type { Finishing } from './finishing';
import { finishTargets, giveValues, rememberFinish } from './finishCommands';

/** Milliseconds of rest after which what was tried is given: a held key is one step of the history, not thirty. */
const RESTED = 400;

type Look = Pick<Seen, 'store' | 'shoot' | 'state' | 'dispatch' | 'current' | 'selected'>;

interface Draft {
  /** of the frame that was current when it was begun */
  id: string;
  finish: Finish;
}

export function useFinishing(look: Look): Finishing {
  const { shoot, state, current } = look;
  const [draft, setDraft] = useState<Draft | null>(null);
  const [all, setAll] = useKeptState('finish.all', false);
  const frame = current === null ? null : (shoot.byId.get(current) ?? null);
  const can = frame !== null && frame.picture !== null && frame.role !== 'clip';
  const kept = useMemo(() => (can ? finishOf(frame.finish) : null), [can, frame?.finish]);
  const mine = draft !== null && draft.id === current ? draft : null;
  const values = mine && kept ? mine.finish : kept;
  const newest = useRef({ look, draft, all });
  newest.current = { look, draft, all };

  const settle = useCallback(() => {
    const { look: now, draft: tried, all: together } = newest.current;
    if (!tried) return;
    newest.current.draft = null;
    setDraft(null);
    const begun = now.shoot.byId.get(tried.id);
    if (!begun) return;
    const before = finishOf(begun.finish);
    const changed = FINISH_FIELDS.filter((field) => before[field] !== tried.finish[field]);
    const of = (fields: readonly FinishField[]) =>
      changed
        .filter((field) => fields.includes(field))
        .map((field) => [field, tried.finish[field] ?? null] as const);
    const shape = of(SHAPE_FIELDS);
    const tones = of(
      FINISH_FIELDS.filter((field) => !(SHAPE_FIELDS as readonly FinishField[]).includes(field)),
    );
    // What is drawn on one picture is that picture's own.
    if (shape.length > 0) giveValues(shape, [begun], now);
    if (tones.length > 0) {
      const targets = finishTargets(now, together);
      giveValues(tones, targets.some(({ id }) => id === begun.id) ? targets : [begun], now);
    }
    rememberFinish(begun, finishText(tried.finish));
  }, []);

  useEffect(() => {
    if (!draft) return;
    const timer = setTimeout(settle, RESTED);
    return () => clearTimeout(timer);
  }, [draft, settle]);
  // Another frame, or the panel closed: what was tried is given before that.
  const open = state.finishing !== null;
  useEffect(() => settle, [current, open, settle]);

  const attempt = useCallback((change: Partial<Record<FinishField, FinishValue | null>>) => {
    const { look: now } = newest.current;
    const its = now.current === null ? undefined : now.shoot.byId.get(now.current);
    if (!its) return;
    const before = newest.current.draft?.id === its.id ? newest.current.draft.finish : finishOf(its.finish);
    const finish: Record<string, FinishValue> = { ...before };
    for (const [field, value] of Object.entries(change))
      if (value === null) delete finish[field];
      else finish[field] = value;
    const next = { id: its.id, finish };
    newest.current.draft = next;
    setDraft(next);
  }, []);

  const targets = useMemo(
    () => (open ? finishTargets({ state, shoot, current, selected: look.selected }, all) : NONE),
    [open, state, shoot, current, look.selected, all],
  );
  const of = useCallback(
    (one: LoadedFrame) => {
      if (!mine) return one.finish;
      if (one.id === mine.id) return finishText(mine.finish);
      if (!all || !targets.some(({ id }) => id === one.id)) return one.finish;
      // Beside it the others follow what is tried of tones.
      const begun = shoot.byId.get(mine.id);
      const before = begun ? finishOf(begun.finish) : {};
      const its: Record<string, FinishValue | undefined> = { ...finishOf(one.finish) };
      for (const field of FINISH_FIELDS)
        if (!(SHAPE_FIELDS as readonly FinishField[]).includes(field) && before[field] !== mine.finish[field])
          its[field] = mine.finish[field];
      return finishText(its);
    },
    [mine, all, targets, shoot],
  );
  return { values, of, targets, all, setAll, attempt, settle };
}

const NONE: readonly LoadedFrame[] = [];
