import { standingOf, stageAt, type KeeperRules } from '@arkiv/core';
import { useCallback, useMemo, useState, useSyncExternalStore } from 'react';
import type { LoadedFrame } from '../../data/frames';
import { many } from '../../data/format';
import { useSettings } from '../../data/live';
import { shootStore } from '../../data/shootStore';
import { useStages } from '../../data/stages';
import { all, FIRST, meant, pick, placeOf, step, type Chosen } from '../../parts/chosen';
import { Staged } from './staged';

/** The keepers of a shoot by stage, which of them are meant, and what is done to them. */
export function useHandoff(shootId: string) {
  const store = shootStore(shootId);
  const shoot = useSyncExternalStore(store.subscribe, store.snapshot);
  const { data: settings } = useSettings();
  const rules = settings?.rules as unknown as KeeperRules | undefined;
  const stages = useStages();
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [chosen, setChosen] = useState<Chosen>(FIRST);
  /** what was done last */
  const [notice, setNotice] = useState('');
  const { frames } = shoot;
  const keepers = useMemo(
    () => (rules ? frames.filter((frame) => standingOf(rules, frame) === 'keeper') : []),
    [frames, rules],
  );
  const staged = useMemo(() => new Staged(keepers, stages, folded), [keepers, stages, folded]);
  const at = placeOf(chosen, staged);
  const targets = useMemo(
    () => meant(chosen, staged).flatMap((id) => shoot.byId.get(id) ?? []),
    [chosen, staged, shoot],
  );
  const moveTo = (index: number, which: readonly LoadedFrame[] = targets): void => {
    const stage = stages[index];
    if (!stage) return;
    const leaving = which.filter((frame) => stageAt(frame.stage, stages) !== index);
    if (leaving.length === 0) return setNotice(`It is at “${stage.name}” already`);
    const next = staged.after(new Set(leaving.map(({ id }) => id)));
    store.markEach(leaving.map(({ id }) => ({ id, field: 'stage', to: stage.id })));
    setChosen(next === null ? FIRST : { at: next, anchor: next, ids: new Set() });
    setNotice(`${many(leaving.length, 'frame')} moved to “${stage.name}” · Ctrl Z undoes`);
  };
  const turn = (which: 'undo' | 'redo'): void =>
    void store[which]().then(
      (done) => {
        if (!done) return setNotice(which === 'undo' ? 'Nothing to undo' : 'Nothing to redo');
        const ids = [...new Set(done.ids)];
        setNotice(`${which === 'undo' ? 'Undone' : 'Done again'}: ${many(ids.length, 'frame')}`);
        if (ids[0] !== undefined) setChosen({ at: ids[0], anchor: ids[0], ids: new Set() });
      },
      (error: unknown) => setNotice((error as Error).message),
    );
  const fold = useCallback(
    (index: number) => {
      const id = stages[index]?.id;
      if (id === undefined) return;
      setFolded((now) => {
        const next = new Set(now);
        if (!next.delete(id)) next.add(id);
        return next;
      });
    },
    [stages],
  );
  return {
    ...{
      shootId,
      shoot,
      known: shoot.loaded && rules !== undefined,
      keepers,
      stages,
      staged,
      at,
      targets,
      notice,
    },
    current: shoot.byId.get(staged.id(at) ?? '') ?? null,
    moveTo,
    /** So many stages on, or back, each from its own. */
    moveBy: (by: 1 | -1): void => {
      const [first] = targets;
      if (!first) return;
      const to = stageAt(first.stage, stages) + by;
      if (to < 0 || to >= stages.length)
        return setNotice(by > 0 ? 'That is the last stage' : 'That is the first stage');
      moveTo(to);
    },
    /** What was dragged is let go under a heading, or on a frame. */
    drop: (place: number): void => {
      const stage = staged.stageOf(place);
      if (stage) moveTo(stages.findIndex(({ id }) => id === stage.id));
    },
    writeNote: (note: string | null): void => {
      const ids = targets.map(({ id }) => id);
      store.mark(ids, 'note', note);
      setNotice(
        `${note === null ? 'Note taken off' : 'Note written on'} ${many(ids.length, 'frame')} · Ctrl Z undoes`,
      );
    },
    fold,
    undo: () => turn('undo'),
    redo: () => turn('redo'),
    pick: (place: number, how: 'only' | 'range' | 'toggle'): void => {
      const id = staged.id(place);
      if (id !== undefined) setChosen((now) => pick(now, staged, id, how));
    },
    step: (by: number, extend = false): void => setChosen((now) => step(now, staged, by, extend)),
    chooseAll: (): void => setChosen((now) => all(now, staged)),
    chooseOne: (): void => setChosen((now) => ({ ...now, ids: new Set<string>() })),
    /** All that stand at the stage of the frame that is stood at. */
    chooseStage: (): void => {
      const here = staged.stageOf(at)?.id;
      const ids = staged.ids.filter((_, place) => staged.stageOf(place)?.id === here);
      if (ids[0] !== undefined) setChosen({ at: staged.id(at)!, anchor: ids[0], ids: new Set(ids) });
    },
    chooseThese: (ids: readonly string[]): void =>
      setChosen({ at: ids[0] ?? null, anchor: ids[0] ?? null, ids: new Set(ids) }),
  };
}

export type Handoff = ReturnType<typeof useHandoff>;
