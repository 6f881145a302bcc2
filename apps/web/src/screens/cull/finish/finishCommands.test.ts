import { applyMark, finishOf, type MarkOperation } from '@arkiv/core';
import { finishFacts, NO_FRAME, type LoadedFrame } from '../../../data/frames';
import type { CullCommand, FinishCommand } from '../../../keys/actions';
import { START, type CullState } from '../cullState';
import type { Seen } from '../seen';
import {
  cropCommand,
  finishCommand,
  finishTargets,
  lastFinish,
  putWish,
  rememberFinish,
  resetFinish,
} from './finishCommands';

const frame = (id: string, more: Partial<LoadedFrame> = {}): LoadedFrame => {
  const plain = { ...NO_FRAME, id, name: `night_${id}`, picture: `k${id}`, width: 600, height: 400, ...more };
  return { ...plain, ...finishFacts(plain, plain.finish) };
};

/** A tiny shoot that marks are put on, as the store does it. */
function seen(frames: LoadedFrame[], more: Partial<CullState> = {}, selected: string[] = []) {
  const byId = new Map(frames.map((one) => [one.id, one]));
  const said: string[] = [];
  const dispatched: unknown[] = [];
  const tried: unknown[] = [];
  const made = {
    state: { ...START, ...more },
    current: frames[0]!.id,
    selected,
    shoot: { byId },
    takes: { idsWith: () => frames.map(({ id }) => id) },
    dispatch: (action: unknown) => dispatched.push(action),
    notices: { say: (words: string) => said.push(words) },
    finishes: [{ name: 'Newsprint', values: 'contrast=25,mono=yellow' }],
    finishing: {
      all: false,
      settle: () => undefined,
      attempt: (change: unknown) => tried.push(change),
      get values() {
        return finishOf(byId.get(frames[0]!.id)!.finish);
      },
    },
    store: {
      markEach: (changes: { id: string; field: MarkOperation['kind']; to: MarkOperation['to'] }[]) =>
        changes.flatMap(({ id, field, to }) => {
          const before = byId.get(id)!;
          const after = applyMark(before, { kind: field, to });
          if (after.finish === before.finish) return [];
          byId.set(id, { ...before, ...after } as LoadedFrame);
          return [{ subject: id }];
        }),
    },
  };
  return {
    ...{ seen: made as unknown as Seen, said, dispatched, tried },
    finish: (id: string) => byId.get(id)!.finish,
    run: (command: FinishCommand, lead: string | null = null) =>
      finishCommand(command, lead, made as unknown as Seen),
  };
}

describe('what keys do with finishing', () => {
  beforeEach(() => localStorage.clear());

  it('goes to the current frame, to what is selected on the sheet, or to all that stand side by side', () => {
    const frames = [frame('1'), frame('2'), frame('3', { role: 'clip' }), frame('4', { picture: null })];
    const ids = (its: ReturnType<typeof seen>, all = false) =>
      finishTargets(its.seen, all).map(({ id }) => id);
    expect(ids(seen(frames))).toEqual(['1']);
    expect(ids(seen(frames, { view: 'sheet' }, ['1', '2', '3', '4']))).toEqual(['1', '2']);
    const beside = seen(frames, { view: 'side', panes: ['1', '2', '3'] });
    expect(ids(beside)).toEqual(['1']);
    expect(ids(beside, true)).toEqual(['1', '2']);
  });

  it('puts a kept finish on by its number, and says where there is none', () => {
    const its = seen([frame('1'), frame('2')], { view: 'sheet' }, ['1', '2']);
    its.run({ do: 'finishNamed', number: 1 });
    expect([its.finish('1'), its.finish('2')]).toEqual(Array(2).fill('contrast=25,mono=yellow'));
    expect(its.said.at(-1)).toBe('Finished as “Newsprint”: 2 frames');
    its.run({ do: 'finishNamed', number: 1 });
    expect(its.said.at(-1)).toBe('They look so already');
    its.run({ do: 'finishNamed', number: 2 });
    expect(its.said.at(-1)).toContain('No finish 2 is kept');
  });

  it('does as with the last frame, but leaves its crop where it was made', () => {
    const its = seen([frame('1')]);
    its.run({ do: 'finishLast' });
    expect(its.said.at(-1)).toBe('Nothing was finished here yet');
    rememberFinish(frame('9'), 'angle=1,crop=5:4:0.5:0.5:1,exposure=0.3');
    expect(lastFinish()).toEqual({
      values: 'angle=1,crop=5:4:0.5:0.5:1,exposure=0.3',
      width: 600,
      height: 400,
    });
    its.run({ do: 'finishLast' });
    expect(its.finish('1')).toBe('exposure=0.3');
  });

  it('turns a crop along with frames that were held the other way, where it is put on them', () => {
    const high = frame('2', { width: 400, height: 600 });
    const its = seen([frame('1'), high], { view: 'sheet' }, ['1', '2']);
    putWish(
      {
        ...{ finish: { crop: '5:4:0.4:0.5:1' }, fields: ['crop'], words: 'Put on' },
        from: { width: 600, height: 400 },
      },
      its.seen,
    );
    expect(its.finish('1')).toBe('crop=5:4:0.4:0.5:1');
    expect(its.finish('2')).toBe('crop=4:5:0.5:0.4:1');
  });

  it('takes all of it away, and says so', () => {
    const its = seen([frame('1', { finish: 'exposure=1,mono=plain' })]);
    its.run({ do: 'finishNone' });
    expect(its.finish('1')).toBe('');
    expect(its.said.at(-1)).toBe('As the camera took it: 1 frame');
    expect(resetFinish([frame('1')], its.seen)).toBe(0);
  });

  it('opens and closes the panel, and draws a crop only where there is a picture', () => {
    const its = seen([frame('1')]);
    its.run({ do: 'finish' });
    its.run({ do: 'finishCrop' });
    expect(its.dispatched).toEqual([
      { type: 'finishing', as: 'tones' },
      { type: 'finishing', as: 'crop' },
    ]);
    const none = seen([frame('1', { picture: null })], { finishing: 'tones' });
    none.run({ do: 'finishCrop' });
    expect(none.said.at(-1)).toBe('There is no picture to finish');
    none.run({ do: 'finish' });
    expect(none.dispatched).toEqual([{ type: 'finishing', as: null }]);
  });

  it('matches nothing where a frame is alone in its take', () => {
    const its = seen([frame('1')]);
    its.run({ do: 'finishMatch' }, '1');
    expect(its.said.at(-1)).toContain('alone in its take');
  });
});

describe('keys while a crop is drawn', () => {
  const press = (command: CullCommand, finish = 'crop=3:2:0.5:0.5:0.5') => {
    const its = seen([frame('1', { finish })], { finishing: 'crop' });
    return { meant: cropCommand(command, its.seen), ...its };
  };

  it('move the rectangle, make it larger and smaller, and lay it level', () => {
    expect(press({ do: 'step', by: 1 }).tried).toEqual([{ crop: '3:2:0.51:0.5:0.5' }]);
    expect(press({ do: 'row', by: -1 }).tried).toEqual([{ crop: '3:2:0.5:0.49:0.5' }]);
    expect(press({ do: 'size', by: 1 }).tried).toEqual([{ crop: '3:2:0.5:0.5:0.51' }]);
    expect(press({ do: 'size', by: -1 }).tried).toEqual([{ crop: '3:2:0.5:0.5:0.4902' }]);
    expect(press({ do: 'extend', by: 1 }).tried).toEqual([{ angle: 0.1 }]);
    expect(press({ do: 'extend', by: -1 }, 'angle=0.1').tried).toEqual([{ angle: null }]);
    // It stops at the edge.
    expect(press({ do: 'step', by: 1 }, 'crop=3:2:0.75:0.5:0.5').tried).toEqual([
      { crop: '3:2:0.75:0.5:0.5' },
    ]);
  });

  it('begin with the picture’s own shape, end it with Enter, and leave all other keys theirs', () => {
    expect(press({ do: 'size', by: -1 }, '').tried).toEqual([{ crop: 'own:0.5:0.5:0.9804' }]);
    expect(press({ do: 'view', to: 'single' }).dispatched).toEqual([{ type: 'finishing', as: 'tones' }]);
    expect(press({ do: 'view', to: 'sheet' }).meant).toBe(false);
    expect(press({ do: 'verdict', to: 'keep' })).toMatchObject({ meant: false, tried: [] });
    expect(press({ do: 'extend', by: 1, row: true })).toMatchObject({ meant: true, tried: [] });
  });
});
