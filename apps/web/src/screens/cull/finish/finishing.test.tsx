import { applyMark, type MarkOperation } from '@arkiv/core';
import { act, cleanup, fireEvent, render, renderHook, screen } from '@testing-library/react';
import { finishFacts, NO_FRAME, type LoadedFrame } from '../../../data/frames';
import { START, type CullState } from '../cullState';
import { FinishPanel } from './FinishPanel';
import { lastFinish } from './finishCommands';
import type { Finishing } from './finishing';
import { useFinishing } from './useFinishing';

jest.mock('../../../data/live', () => ({ useSettings: () => ({ data: { finishes: [] } }) }));

const frame = (id: string, finish = ''): LoadedFrame => {
  const plain = { ...NO_FRAME, id, name: `night_${id}`, picture: `k${id}`, width: 600, height: 400, finish };
  return { ...plain, ...finishFacts(plain, finish) };
};

/** The hook over a shoot of two frames; what it gives is put on them, as the store does. */
function look() {
  const byId = new Map([frame('1'), frame('2')].map((one) => [one.id, one]));
  const given: [string, string, unknown][] = [];
  const store = {
    markEach: (changes: { id: string; field: MarkOperation['kind']; to: MarkOperation['to'] }[]) =>
      changes.map(({ id, field, to }) => {
        given.push([id, field, to]);
        byId.set(id, { ...byId.get(id)!, ...applyMark(byId.get(id)!, { kind: field, to }) } as LoadedFrame);
        return { subject: id };
      }),
  };
  const of = (current: string, state: Partial<CullState> = {}) =>
    ({
      ...{ store, shoot: { byId }, dispatch: () => undefined, current, selected: [] },
      state: { ...START, finishing: 'tones', ...state },
    }) as unknown as Parameters<typeof useFinishing>[0];
  return { of, given, byId };
}

describe('what is tried on a frame', () => {
  beforeEach(() => {
    jest.useFakeTimers();
    localStorage.clear();
    sessionStorage.clear();
  });
  afterEach(() => {
    cleanup();
    jest.useRealTimers();
  });

  it('is seen at once and given when the hand rests: a held key is one step of the history', () => {
    const { of, given, byId } = look();
    const { result } = renderHook((its) => useFinishing(its), { initialProps: of('1') });
    for (const exposure of [0.05, 0.1, 0.15]) act(() => result.current.attempt({ exposure }));
    expect(result.current.values).toEqual({ exposure: 0.15 });
    expect(result.current.of(byId.get('1')!)).toBe('exposure=0.15');
    expect(given).toEqual([]);
    act(() => jest.advanceTimersByTime(1000));
    expect(given).toEqual([['1', 'finish exposure', 0.15]]);
    expect(lastFinish()?.values).toBe('exposure=0.15');
  });

  it('is given before another frame is gone to, and to no other than the one that it was tried on', () => {
    const { of, given } = look();
    const { result, rerender } = renderHook((its) => useFinishing(its), { initialProps: of('1') });
    act(() => result.current.attempt({ tint: 12 }));
    rerender(of('2'));
    expect(given).toEqual([['1', 'finish tint', 12]]);
    expect(result.current.values).toEqual({});
  });

  it('is given when the panel closes', () => {
    const { of, given } = look();
    const { result, rerender } = renderHook((its) => useFinishing(its), { initialProps: of('1') });
    act(() => result.current.attempt({ mono: 'red' }));
    rerender(of('1', { finishing: null }));
    expect(given).toEqual([['1', 'finish mono', 'red']]);
  });

  it('goes to all that stand side by side where that is wanted, but for what is drawn on one', () => {
    const { of, given, byId } = look();
    const beside = of('1', { view: 'side', panes: ['1', '2'] });
    const { result } = renderHook((its) => useFinishing(its), { initialProps: beside });
    act(() => result.current.setAll(true));
    act(() => result.current.attempt({ contrast: 20, angle: 1.5 }));
    // The others follow what is tried of tones alone.
    expect(result.current.of(byId.get('2')!)).toBe('contrast=20');
    act(() => result.current.settle());
    expect(given).toEqual([
      ['1', 'finish angle', 1.5],
      ['1', 'finish contrast', 20],
      ['2', 'finish contrast', 20],
    ]);
  });

  it('is of nothing where a frame has no picture', () => {
    const { of, byId } = look();
    byId.set('1', { ...frame('1'), picture: null });
    const { result } = renderHook((its) => useFinishing(its), { initialProps: of('1') });
    expect(result.current.values).toBeNull();
    expect(result.current.targets).toEqual([]);
  });
});

describe('the panel', () => {
  afterEach(cleanup);
  const show = (finish: object, more: Partial<Parameters<typeof FinishPanel>[0]> = {}) => {
    const tried: object[] = [];
    const finishing = {
      ...{ values: finish, of: () => '', targets: [frame('1')], all: false, setAll: () => undefined },
      ...{ attempt: (change: object) => tried.push(change), settle: () => undefined },
    } as unknown as Finishing;
    const none = () => undefined;
    render(
      <FinishPanel
        {...{ frame: frame('1'), finishing, mode: 'tones', beside: false, take: 3 }}
        {...{ onMode: none, onRun: none, onPut: none, keyOf: () => 'Alt X', ...more }}
      />,
    );
    return tried;
  };

  it('takes a number as it is typed, with a comma or a minus of print, and nothing that is none', () => {
    const tried = show({ exposure: 0.5 });
    const field = screen.getByRole('textbox', { name: 'exposure, as a number' });
    expect(field).toHaveProperty('value', '+0.50');
    const type = (value: string) => {
      fireEvent.change(field, { target: { value } });
      fireEvent.blur(field);
    };
    type('−0,75');
    type('12');
    type('bright');
    type('0');
    expect(tried).toEqual([{ exposure: -0.75 }, { exposure: 4 }, { exposure: null }]);
  });

  it('takes a value away at a press on its name, and offers what can be taken away alone', () => {
    const tried = show({ exposure: 0.5 });
    fireEvent.click(screen.getByTitle('exposure: back to 0'));
    expect(tried).toEqual([{ exposure: null }]);
    expect(screen.getByRole('button', { name: 'Reset' })).toHaveProperty('disabled', false);
    cleanup();
    show({});
    expect(screen.getByRole('button', { name: 'Reset' })).toHaveProperty('disabled', true);
  });

  it('chooses a crop by its shape, as the picture lies, and the other way round', () => {
    const tried = show({});
    const shape = screen.getByRole('combobox', { name: 'Shape of the crop' });
    fireEvent.change(shape, { target: { value: '5:4' } });
    fireEvent.change(shape, { target: { value: 'own' } });
    fireEvent.change(shape, { target: { value: 'none' } });
    expect(tried).toEqual([{ crop: '5:4:0.5:0.5:1' }, { crop: 'own:0.5:0.5:1' }, { crop: null }]);
    cleanup();
    const turned = show({ crop: '5:4:0.5:0.5:1' });
    expect(screen.getByRole('combobox', { name: 'Shape of the crop' })).toHaveProperty('value', '5:4');
    fireEvent.click(screen.getByRole('button', { name: '⇄' }));
    fireEvent.click(screen.getByRole('button', { name: 'Turn right' }));
    expect(turned[0]).toEqual({ crop: '4:5:0.5:0.5:1' });
    expect(turned[1]).toMatchObject({ turn: 1 });
  });

  it('says what it goes to, and what an edit that came back means', () => {
    show({}, { frame: { ...frame('1'), edited: 'edited' } });
    expect(screen.getByText('this frame')).toBeTruthy();
    expect(screen.getByText(/An edit of this frame came back/)).toBeTruthy();
    cleanup();
    show(null as unknown as object);
    expect(screen.getByText('Of this frame there is no picture to finish.')).toBeTruthy();
  });

  it('has no take to match where a frame is alone, and no last one where nothing was finished', () => {
    localStorage.clear();
    show({}, { take: 1 });
    expect(screen.queryByRole('button', { name: 'Match the take to its lead' })).toBeNull();
    expect(screen.getByRole('button', { name: 'As the last one' })).toHaveProperty('disabled', true);
  });
});
