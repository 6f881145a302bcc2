import { act, cleanup, render, type RenderResult } from '@testing-library/react';
import type { SplitRule } from '@arkiv/core';
import { PatternField } from '../../parts/PatternField';
import { SplitBar } from '../../parts/SplitBar';

Object.assign(globalThis, {
  ResizeObserver: class {
    observe() {}
    disconnect() {}
  },
});

describe('parts of the intake screen', () => {
  let host: HTMLElement;
  let view: RenderResult | null = null;
  afterEach(() => {
    cleanup();
    view = null;
  });
  /** Draws it, or draws it anew in the same place. */
  const show = (what: React.ReactNode) => {
    if (view) view.rerender(what);
    else view = render(what);
    host = view.container;
  };
  const button = (words: string) =>
    [...host.querySelectorAll('button')].find((b) => b.textContent === words)!;
  const frames = ['k1', 'k2', 'k3'].map((id, i) => ({
    id,
    instant: i * 1000,
    clock: '09:00',
    verdict: 'undecided' as const,
    hidden: false,
  }));
  const parts = [
    { keys: ['k1'], day: null, from: null, to: null },
    { keys: ['k2', 'k3'], day: null, from: null, to: null },
  ];

  it('keeps the cuts that a rule made when they are to be moved by hand', () => {
    let rule: SplitRule = { by: 'day' };
    show(
      <SplitBar
        frames={frames}
        rule={rule}
        parts={parts}
        current="k3"
        onRule={(r) => (rule = r)}
        onGo={() => undefined}
      />,
    );
    expect(host.querySelectorAll('[data-cut]')).toHaveLength(1);
    expect(host.textContent).toContain('2 shoots');
    act(() => button('by hand').click());
    expect(rule).toEqual({ by: 'hand', before: ['k2'] });
  });

  it('splits before the current frame, removes the split again, and never splits before the first', () => {
    let rule: SplitRule = { by: 'hand', before: ['k2'] };
    const bar = (current: string) =>
      show(
        <SplitBar
          frames={frames}
          rule={rule}
          parts={parts}
          current={current}
          onRule={(r) => (rule = r)}
          onGo={() => undefined}
        />,
      );
    bar('k3');
    act(() => button('Split before this frame').click());
    expect(rule).toEqual({ by: 'hand', before: ['k2', 'k3'] });
    bar('k2');
    act(() => button('Remove this split').click());
    expect(rule).toEqual({ by: 'hand', before: ['k3'] });
    bar('k1');
    expect(button('Split before this frame').disabled).toBe(true);
  });

  it('steps along the strip by arrow keys', () => {
    let gone = '';
    show(
      <SplitBar
        frames={frames}
        rule={{ by: 'none' }}
        parts={[]}
        current="k2"
        onRule={() => undefined}
        onGo={(id) => (gone = id)}
      />,
    );
    const strip = host.querySelector('[role=slider]')!;
    act(() => void strip.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowLeft', bubbles: true })));
    expect(gone).toBe('k1');
  });

  it('puts a field in where the cursor stands, and says what cannot be read', () => {
    let value = '{shoot}_';
    const field = () =>
      show(
        <PatternField
          label="Name pattern"
          value={value}
          fields={['number', 'body']}
          onChange={(v) => (value = v)}
        />,
      );
    field();
    const text = host.querySelector('input')!;
    text.setSelectionRange(0, 0);
    const chip = [...host.querySelectorAll('[role=button]')].find(
      (c) => c.textContent === 'number',
    ) as HTMLElement;
    act(() => chip.click());
    expect(value).toBe('{number:4}{shoot}_');
    value = '{shot}';
    field();
    expect(host.textContent).toMatch(/“shot”, which does not exist/);
    value = '';
    field();
    expect(host.textContent).toContain('Empty: put at least one field in.');
  });
});
