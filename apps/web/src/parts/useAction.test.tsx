import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Problem } from './Problem';
import { useAction } from './useAction';

function Copy({ work }: { work: (drive: string) => Promise<unknown> }) {
  const { run, busy, error, again } = useAction(work);
  return (
    <>
      <button disabled={busy} onClick={() => run('Backup')}>
        Copy
      </button>
      <Problem error={error} again={again} />
    </>
  );
}

describe('an action of a screen', () => {
  it('is busy while it is under way, and then free', async () => {
    let done: () => void = () => undefined;
    render(<Copy work={() => new Promise<void>((resolve) => (done = resolve))} />);
    const button = screen.getByRole('button', { name: 'Copy' });
    await userEvent.click(button);
    expect(button).toHaveProperty('disabled', true);
    done();
    await screen.findByRole('button', { name: 'Copy' });
    await Promise.resolve();
    expect(screen.queryByRole('alert')).toBeNull();
    await userEvent.click(button);
  });

  it('leaves the focus where it was, unless the hands have gone on meanwhile', async () => {
    let done: () => void = () => undefined;
    render(<Copy work={() => new Promise<void>((resolve) => (done = resolve))} />);
    const button = screen.getByRole('button', { name: 'Copy' });
    const pressed = async (meanwhile: () => Promise<void>): Promise<void> => {
      button.focus();
      await userEvent.keyboard('{Enter}');
      expect(button).toHaveProperty('disabled', true);
      // Browsers take it from what is disabled; here it has to be taken by another.
      const other = document.body.appendChild(document.createElement('input'));
      other.focus();
      other.remove();
      expect(document.activeElement).toBe(document.body);
      await meanwhile();
      done();
      await waitFor(() => expect(button).toHaveProperty('disabled', false));
    };
    await pressed(async () => undefined);
    expect(document.activeElement).toBe(button);
    await pressed(async () => void (await userEvent.keyboard('{ArrowRight}')));
    expect(document.activeElement).toBe(document.body);
  });

  it('shows why it failed, and does the same again on request', async () => {
    const work = jest
      .fn<Promise<unknown>, [string]>()
      .mockRejectedValueOnce(new Error('The drive is full.'))
      .mockResolvedValue(undefined);
    render(<Copy work={work} />);
    await userEvent.click(screen.getByRole('button', { name: 'Copy' }));
    expect((await screen.findByRole('alert')).textContent).toContain('The drive is full.');
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(work.mock.calls).toEqual([['Backup'], ['Backup']]);
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('tries again with what the screen says by then', async () => {
    const said: string[] = [];
    const failing = (what: string) => () => {
      said.push(what);
      return Promise.reject(new Error('no'));
    };
    const { rerender } = render(<Copy work={failing('first')} />);
    await userEvent.click(screen.getByRole('button', { name: 'Copy' }));
    rerender(<Copy work={failing('second')} />);
    await userEvent.click(await screen.findByRole('button', { name: 'Try again' }));
    expect(said).toEqual(['first', 'second']);
  });
});
