import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { NO_FRAME, type LoadedFrame } from '../../data/frames';
import type { Api } from '../../data/http';
import { WhoseEdit } from './WhoseEdit';

describe('an edit of which somebody has to say whose it is', () => {
  const frames = Array.from({ length: 60 }, (_, i): LoadedFrame => ({
    ...NO_FRAME,
    id: `f${i + 1}`,
    name: `night_${String(i + 1).padStart(4, '0')}`,
  }));
  const said: unknown[] = [];
  beforeEach(() => {
    said.length = 0;
    global.fetch = jest.fn(async (_: unknown, { body }: { body?: string } = {}) => {
      if (body !== undefined) said.push((JSON.parse(body) as { frameIds: string[] }).frameIds);
      return { ok: true, status: 204, headers: new Headers(), text: async () => '' };
    }) as unknown as typeof fetch;
  });
  const show = (among: number[], keepers = frames) => render(dialog(among, keepers));
  const dialog = (among: number[], keepers = frames) => (
    <WhoseEdit
      its={
        {
          ...{
            assetId: 'a',
            name: 'moon.jpg',
            state: among.length > 0 ? 'asks' : 'unknown',
            picture: null,
          },
          ...{ originals: [], among: among.map((n) => frames[n - 1]!) },
        } as unknown as Api['ReturnDto']
      }
      {...{ frames, keepers }}
      onDone={() => Promise.resolve()}
      onClose={() => undefined}
    />
  );
  const button = () => screen.getByRole('button', { name: /^Of \d+$/ }).textContent;
  const number = () => screen.getByLabelText('Another frame: number, name or time');

  it('is of the frame that was typed, also where that is among those that it may be of', async () => {
    show([4, 6]);
    expect(button()).toBe('Of 0004');
    await userEvent.type(number(), '0006');
    expect(button()).toBe('Of 0006');
    await userEvent.type(number(), '{Enter}');
    expect(said).toEqual([['f6']]);
  });

  it('is looked for through all keepers where nothing tells, and no key means one that is not seen', async () => {
    show([], frames.slice(9));
    screen.getByRole('group', { name: 'Frames of which it may be' }).focus();
    // None is meant before one is gone to: a key that was held a moment too long says nothing.
    await userEvent.keyboard('{Enter}');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Of this one' }).disabled).toBe(true);
    await userEvent.keyboard('{ArrowRight}{ArrowRight}{ArrowRight}5a');
    expect(said).toEqual([]);
    expect(button()).toBe('Of 0012');
    expect(screen.getAllByRole('option').length).toBeLessThan(45);
    await userEvent.keyboard('{Enter}');
    expect(said).toEqual([['f12']]);
  });

  it('is gone through from the first that is offered, also where the offers come after it was opened', async () => {
    const { rerender } = show([]);
    rerender(dialog([4, 6, 8]));
    expect(button()).toBe('Of 0004');
    screen.getByRole('group', { name: 'Frames of which it may be' }).focus();
    await userEvent.keyboard('{ArrowRight}');
    expect(button()).toBe('Of 0006');
    // Once one is gone to, nothing changes under the hand.
    rerender(dialog([10, 11]));
    expect(button()).toBe('Of 0006');
    await userEvent.keyboard('{Enter}');
    expect(said).toEqual([['f6']]);
  });
});
