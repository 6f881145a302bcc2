import { DEFAULT_RULES } from '@arkiv/core';
import { act, cleanup, render, type RenderResult } from '@testing-library/react';
import type { ReactElement } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { MemoryRouter } from 'react-router';
import { NO_FRAME, withTime, type LoadedFrame } from '../../data/frames';
import { serverState } from '../../data/serverState';
import { Problem } from '../../parts/Problem';
import { ScreenFailed } from '../../parts/ScreenFailed';
import { SheetCell } from '../../parts/SheetCell';
import { ApiFailure } from '../../data/http';
import { Bindings, shownKey } from '../../keys/bindings';
import { pressNames } from '../../keys/pressed';
import { madeShoot } from '../../testing/madeShoot';
import { CaptionLine } from './CaptionLine';
import { NO_FILTER, type CullFilter } from './cullFilter';
import { FilterDrawer } from './FilterDrawer';
import { KeysDialog } from './KeysDialog';

jest.mock('../../data/stream', () => ({ listen: () => () => undefined, heard: () => undefined }));

const frame = (change: Partial<LoadedFrame> = {}): LoadedFrame =>
  withTime({
    ...NO_FRAME,
    id: 'a',
    name: 'press-night_20261016_0042',
    original: 'OCK_0042',
    instant: 0,
    local: '2026-10-16T19:45:04',
    millis: 630,
    body: 'Ockham Five',
    lens: '35-90mm',
    ...{
      aperture: 4,
      apertureText: 'f/4',
      exposure: 0.01,
      exposureText: '1/160',
      iso: 1600,
      focalLength: 43.2,
    },
    width: 3000,
    height: 2000,
    bytes: 1,
    format: 'jpeg',
    detail: 'full',
    ...change,
  });

describe('parts of Cull', () => {
  let host: HTMLElement;
  let view: RenderResult | null = null;
  afterEach(() => {
    cleanup();
    view = null;
  });

  /** Draws it, or draws it anew in the same place. */
  const show = (element: ReactElement) => {
    if (view) view.rerender(element);
    else view = render(element);
    host = view.container;
  };
  const text = () => host.textContent ?? '';
  const caption = (
    change: Partial<LoadedFrame>,
    facts: 'none' | 'short' | 'full' = 'short',
    more: object = {},
  ) =>
    show(
      <CaptionLine
        frame={frame(change)}
        position="5 of 57"
        takePosition="take 2 of 8"
        facts={facts}
        detail={null}
        labels={{ M: 'Moss' }}
        piles=""
        selected={0}
        stepOn={false}
        notice=""
        cell={null}
        onCell={() => undefined}
        onCamera={() => undefined}
        {...more}
      />,
    );

  it('the caption line reads like a film’s edge', () => {
    caption({ verdict: 'keep', stars: 4, label: 'M' });
    expect(text()).toBe('004219:45:04.63 · 1/160 · f/4 · ISO 1600 · 43 mmtake 2 of 85 of 57keep4★MMoss');
  });

  it('the caption line says nothing of a picture where none is shown', () => {
    const detail = { words: 'full detail at this size', full: true };
    caption({}, 'short', { detail });
    expect(text()).toContain('full detail at this size');
    caption({}, 'short', { frame: null, position: '', takePosition: '', detail });
    expect(text()).toBe('');
  });

  it('the caption line shows no facts, or all of them', () => {
    caption({}, 'none');
    expect(text()).toBe('0042take 2 of 85 of 57undecided');
    caption({}, 'full');
    for (const part of [
      'press-night_20261016_0042',
      'Ockham Five',
      '35-90mm',
      '3000 × 2000',
      'from OCK_0042',
    ])
      expect(text()).toContain(part);
  });

  it('the caption line leaves out what the camera did not say', () => {
    caption({ local: null, exposureText: null, apertureText: null, iso: null, focalLength: null });
    expect(text()).toBe('0042no timetake 2 of 85 of 57undecided');
  });

  it('the caption line says when a picture has not its full detail yet', () => {
    caption({}, 'none', { detail: { words: '1620 of 2400 px, loading full detail', full: false } });
    expect(host.querySelector('[data-testid=detail]')!.textContent).toBe(
      '◧ 1620 of 2400 px, loading full detail',
    );
  });

  it('a cell of the sheet carries its marks without colour too', () => {
    const none = () => undefined;
    const cell = (change: object) =>
      show(
        <SheetCell
          index={0}
          src="x"
          name="Frame 1"
          caption="0001"
          verdict="undecided"
          stars={0}
          label={null}
          selected={false}
          current={false}
          width={200}
          height={133}
          onPick={none}
          onOpen={none}
          {...change}
        />,
      );
    cell({});
    expect(host.querySelectorAll('svg')).toHaveLength(0);
    cell({ verdict: 'keep', stars: 3, label: 'B', selected: true });
    expect(host.querySelectorAll('svg')).toHaveLength(1);
    expect(text()).toBe('00013★B');
    expect(host.querySelector('[role=option]')!.getAttribute('aria-selected')).toBe('true');
    cell({ verdict: 'reject' });
    expect(host.querySelector('img')!.dataset.faint).toBe('true');
    cell({ src: null });
    expect(text()).toContain('no picture');
  });

  describe('the filter', () => {
    const frames = [
      frame({ id: '1', verdict: 'keep', stars: 5 }),
      frame({ id: '2', verdict: 'keep', stars: 3 }),
      frame({ id: '3', verdict: 'reject' }),
    ];
    let chosen: CullFilter;
    const drawer = (filter: CullFilter = NO_FILTER) =>
      show(
        <FilterDrawer
          shoot={madeShoot(frames)}
          filter={filter}
          rules={DEFAULT_RULES}
          line={{}}
          labels={{}}
          piles={[]}
          onPile={() => undefined}
          onFilter={(f) => (chosen = f)}
        />,
      );
    const button = (words: string) =>
      [...host.querySelectorAll('button')].find((b) => b.textContent!.startsWith(words))!;
    const press = (words: string) => act(() => button(words).click());

    it('shows how many frames each choice would leave', () => {
      drawer();
      expect(
        ['keep', 'undecided', 'reject', '5★', '3★', 'no stars'].map((w) => button(w).textContent),
      ).toEqual(['keep2', 'undecided0', 'reject1', '5★1', '3★1', 'no stars1']);
      drawer({ verdicts: ['keep'], stars: { kind: 'atLeast', n: 3 } });
      expect(['5★', '4★', '3★', 'reject'].map((w) => button(w).textContent)).toEqual([
        '5★1',
        '4★1',
        '3★2',
        'reject0',
      ]);
    });

    it('adds and takes out verdicts, and all three are as good as none', () => {
      drawer();
      press('keep');
      expect(chosen.verdicts).toEqual(['keep']);
      drawer({ ...NO_FILTER, verdicts: ['keep'] });
      press('keep');
      expect(chosen.verdicts).toEqual([]);
      drawer({ ...NO_FILTER, verdicts: ['keep', 'reject'] });
      press('undecided');
      expect(chosen.verdicts).toEqual([]);
    });

    it('takes stars exactly unless told otherwise, and can be cleared', () => {
      drawer();
      press('3★');
      expect(chosen.stars).toEqual({ kind: 'is', n: 3 });
      drawer({ verdicts: [], stars: { kind: 'atLeast', n: 5 } });
      press('3★');
      expect(chosen.stars).toEqual({ kind: 'atLeast', n: 3 });
      press('Show all 3');
      expect(chosen).toEqual(NO_FILTER);
    });
  });

  // By the plan of keys that hands learn, not by the table that is to be checked.
  it.each([
    ['ArrowRight', 'ArrowRight', '→', 'next frame'],
    ['ArrowDown', 'ArrowDown', '↓', 'row below · next take'],
    ['PageDown', 'PageDown', 'Page ↓', 'a screenful on · side by side: the take’s next page'],
    ['KeyF', 'f', 'F', 'keep'],
    ['KeyD', 'd', 'D', 'reject'],
    ['KeyS', 's', 'S', 'back to undecided'],
    ['Digit1', '1', '1', '1★'],
    ['Digit5', '5', '5', '5★'],
    ['Digit0', '0', '0', 'no stars'],
    ['KeyA', 'a', 'A', 'step on after marking, on or off'],
    ['KeyQ', 'q', 'Q', 'contact sheet'],
    ['KeyW', 'w', 'W', 'single'],
    ['KeyC', 'c', 'C', 'facts: none, short, full'],
    ['KeyB', 'b', 'B', 'surround: black, dark, 18 % grey, white'],
    ['KeyH', 'h', 'H', 'open or close the drawer'],
    ['Slash', '/', '/', 'filter'],
    ['Space', ' ', 'Space', 'select this one too, or no longer'],
    ['Escape', 'Escape', 'Esc', 'leave what is open · end the selection'],
    ['Backspace', 'Backspace', 'Backspace', 'show all: clear the filter'],
  ])('the key at %s is in the list as it is bound', (code, key, shown, does) => {
    show(
      <MemoryRouter>
        <KeysDialog open onClose={() => undefined} />
      </MemoryRouter>,
    );
    const rows = [...document.body.querySelectorAll('kbd')].map((kbd) => [
      kbd.textContent!.split(' · '),
      kbd.nextElementSibling?.textContent,
    ]);
    expect(rows.find(([, words]) => words === does)?.[0]).toContain(shown);
    const press = { code, key, ctrlKey: false, metaKey: false, shiftKey: false, altKey: false };
    const bound = new Bindings().boundTo(pressNames(press))!;
    expect(bound.does).toBe(does);
    expect(bound.keys.map(shownKey)).toContain(shown);
  });

  it('a thumbnail that could not be loaded is asked for again when the server is back', () => {
    const none = () => undefined;
    show(
      <SheetCell
        index={0}
        src="/a.jpg"
        name="Frame 1"
        caption="0001"
        verdict="undecided"
        stars={0}
        label={null}
        selected={false}
        current={false}
        width={200}
        height={133}
        onPick={none}
        onOpen={none}
      />,
    );
    act(() => void host.querySelector('img')!.dispatchEvent(new Event('error')));
    expect(host.querySelector('img')).toBeNull();
    act(() => {
      serverState.lost();
      serverState.answered();
    });
    expect(host.querySelector('img')!.getAttribute('src')).toBe('/a.jpg');
  });

  it('a screen that cannot be drawn says so, and can be tried again', () => {
    jest.spyOn(console, 'error').mockImplementation(() => undefined);
    let broken = true;
    const Screen = () => {
      if (broken) throw new Error('no such thing');
      return <p>drawn</p>;
    };
    show(
      <MemoryRouter>
        <ErrorBoundary FallbackComponent={ScreenFailed}>
          <Screen />
        </ErrorBoundary>
      </MemoryRouter>,
    );
    expect(text()).toContain('This screen failed');
    expect(host.querySelector('[role=alert]')!.textContent).toContain('no such thing');
    broken = false;
    act(() => [...host.querySelectorAll('button')].find((b) => b.textContent === 'Try again')!.click());
    expect(text()).toBe('drawn');
    jest.restoreAllMocks();
  });

  it('a problem says what to do next', () => {
    show(
      <Problem
        error={new ApiFailure(409, { code: 'card.none', message: 'There is no card.', next: 'Insert one.' })}
      />,
    );
    expect(host.querySelector('[role=alert]')!.textContent).toBe('There is no card. Insert one.');
    show(<Problem error={null} />);
    expect(text()).toBe('');
  });
});
