import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { SWRConfig } from 'swr';
import type { Api } from '../../data/http';
import { CopyOnto } from './CopyOnto';

const drive = (id: string, name: string, more: object = {}) => ({
  id,
  name,
  role: 'backup',
  online: true,
  ...more,
});

describe('a shoot that is copied to a drive', () => {
  const asked: unknown[] = [];
  let plan: Pick<Api['CopyPlanDto'], 'files' | 'bytes' | 'previews'>;
  const looked: string[] = [];
  beforeEach(() => {
    asked.length = looked.length = 0;
    plan = { files: 12, bytes: 34e6, previews: 0 };
    global.fetch = jest.fn(async (_: unknown, { body }: { body?: string } = {}) => {
      if (body !== undefined) asked.push(JSON.parse(body));
      return { ok: true, status: 200, headers: new Headers(), text: async () => '{"jobId":"J"}' };
    }) as unknown as typeof fetch;
  });
  const show = (keepers = 5) =>
    render(
      <SWRConfig
        value={{
          provider: () => new Map(),
          fetcher: (at: string) => {
            looked.push(at);
            return at === '/volumes'
              ? [
                  drive('T', 'Travel'),
                  drive('E', 'Edit', { role: 'edit' }),
                  drive('A', 'Away', { online: false }),
                ]
              : plan;
          },
        }}
      >
        <CopyOnto shoot={{ id: 'S', keepers } as Api['ShootDto']} />
      </SWRConfig>,
    );
  const choose = async (name: string) =>
    userEvent.selectOptions(await screen.findByLabelText('Copy to a drive'), name);
  const go = () => screen.getByRole('button', { name: /^Copy to/ });
  const tick = (name: RegExp) => screen.queryByRole('checkbox', { name });

  it('goes whole where nothing else is said, to drives that are here and keep copies', async () => {
    show();
    await choose('Travel');
    const options = screen.getAllByRole<HTMLOptionElement>('option');
    expect(options.map(({ textContent, disabled }) => [textContent, disabled])).toEqual([
      ['choose one …', false],
      ['Travel', false],
      ['Away, not connected', true],
    ]);
    expect(await screen.findByText(/^12 files, 34 MB/)).toBeTruthy();
    // With the whole shoot no previews need be taken along.
    expect(tick(/previews/)).toBeNull();
    await userEvent.click(go());
    expect(asked).toEqual([{ shootId: 'S', to: 'T', keepers: false, previews: false }]);
  });

  it('goes as its keepers, with previews of the others where these are wanted, by keys alone', async () => {
    show();
    await choose('Travel');
    screen.getByLabelText('Copy to a drive').focus();
    await userEvent.tab();
    await userEvent.keyboard(' ');
    plan = { files: 12, bytes: 34e6, previews: 40 };
    await userEvent.tab();
    await userEvent.keyboard(' ');
    expect(tick(/previews of the others/)).toHaveProperty('checked', true);
    expect(await screen.findByText(/Previews of 40 frames\./)).toBeTruthy();
    await userEvent.tab();
    await userEvent.keyboard('{Enter}');
    expect(asked).toEqual([{ shootId: 'S', to: 'T', keepers: true, previews: true }]);
    // What is asked for is what was said to come.
    expect(looked).toContain('/copies/missing?shootId=S&to=T&keepers=true&previews=true');
    // The keepers no more: then no previews either.
    await userEvent.click(tick(/^the keepers alone/)!);
    await userEvent.click(go());
    expect(asked.at(-1)).toEqual({ shootId: 'S', to: 'T', keepers: false, previews: false });
  });

  it('cannot go where nothing is to go, and says why', async () => {
    plan = { files: 0, bytes: 0, previews: 0 };
    show(0);
    await choose('Travel');
    expect(await screen.findByText('“Travel” holds all of it already.')).toBeTruthy();
    await userEvent.click(tick(/^the keepers alone/)!);
    expect(await screen.findByText(/^No frame of it is kept yet/)).toBeTruthy();
    expect(go()).toHaveProperty('disabled', true);
  });
});
