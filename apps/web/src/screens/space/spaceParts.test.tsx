import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { SWRConfig } from 'swr';
import { fetchKept, type Api } from '../../data/http';
import { addressed } from '../cull/address';
import { OldRejects, useOldRejects } from './OldRejects';
import { SpareCopies } from './SpareCopies';
import { ageWords } from './spaceWords';

const shoot = (id: string, date: string, frames: number, bytes: number) => ({
  ...{ id, title: `Shoot ${id}`, date, frames, bytes },
});

describe('rejects that could go', () => {
  const asked: { where: string; body?: unknown }[] = [];
  let refused: object[] = [];
  let old: ReturnType<typeof shoot>[] = [];
  let all: object = {};
  const done = jest.fn();
  beforeEach(() => {
    localStorage.clear();
    asked.length = 0;
    [refused, all] = [[], {}];
    done.mockReset();
    global.fetch = jest.fn(async (where: unknown, { body }: { body?: string } = {}) => {
      const address = String(where);
      asked.push(body === undefined ? { where: address } : { where: address, body: JSON.parse(body) });
      const until = /until=([^&]*)/.exec(address)?.[1] ?? '9999';
      const oldest = old.filter(({ date }) => date <= until);
      const sums = { shoots: oldest.length, frames: 0, bytes: 0, younger: old.length - oldest.length };
      const answer = address.includes('/jobs/')
        ? { job: { state: 'done' }, failures: [] }
        : body === undefined
          ? { ...sums, oldest, ...all }
          : { jobIds: ['J'], refused };
      return { ok: true, status: 200, headers: new Headers(), text: async () => JSON.stringify(answer) };
    }) as unknown as typeof fetch;
  });
  const Part = () => <OldRejects rejects={useOldRejects()} onDone={done} />;
  const show = (...shoots: ReturnType<typeof shoot>[]) => {
    old = shoots;
    return render(
      <SWRConfig value={{ fetcher: fetchKept, provider: () => new Map() }}>
        <MemoryRouter>
          <Part />
        </MemoryRouter>
      </SWRConfig>,
    );
  };
  const words = (what: string | RegExp) => screen.findByText(what, { exact: false });
  const press = async (name: string) => userEvent.click(await screen.findByRole('button', { name }));
  const age = (months: string) => userEvent.selectOptions(screen.getByLabelText('Shoots'), months);

  it('are those of shoots that are old enough; what is chosen is counted, and goes', async () => {
    show(
      shoot('a', '2019-01-01', 2, 2e6),
      shoot('b', '2020-01-01', 3, 3e6),
      shoot('c', '2999-01-01', 9, 9e6),
    );
    await words('5 frames of 2 shoots, 5 MB on all drives');
    await press('Choose among 2 shoots');
    await userEvent.click(screen.getByRole('checkbox', { name: 'Shoot a' }));
    await press('Put 3 frames into the bin');
    await waitFor(() => expect(done).toHaveBeenCalledTimes(1));
    expect(asked).toContainEqual({ where: '/api/space/rejects', body: { shootIds: ['b'] } });
    // What is left is asked for anew.
    expect(asked.filter(({ where }) => where.includes('until='))).toHaveLength(2);
  });

  it('are said to be more than go in one go; the oldest shoots go first', async () => {
    all = { shoots: 5001, frames: 104_000, bytes: 1.2e12 };
    show(shoot('a', '2019-01-01', 2, 2e6), shoot('b', '2020-01-01', 3, 3e6));
    await words('104,000 frames of 5,001 shoots, 1.2 TB on all drives. The 2 oldest shoots go first');
    await press('Put 5 frames into the bin');
    await waitFor(() => expect(done).toHaveBeenCalledTimes(1));
    expect(asked).toContainEqual({ where: '/api/space/rejects', body: { shootIds: ['a', 'b'] } });
  });

  it('of the oldest are left where somebody wants them, and those after them are offered', async () => {
    all = { shoots: 5001, frames: 104_000, bytes: 1.2e12 };
    show(...Array.from({ length: 200 }, (_, i) => shoot(`s${i}`, '2019-01-01', 1, 1e6)));
    await press('Leave these, go on to the next');
    await waitFor(() => expect(asked.some(({ where }) => where.includes('after=s199'))).toBe(true));
    await words('Now 200 that come after those');
    await press('Back to the oldest');
    await words('The 200 oldest shoots go first');
  });

  it('are looked at before: the way there shows the rejects of that shoot alone', async () => {
    show(shoot('a', '2019-01-01', 2, 2e6));
    await press('Choose among 1 shoot');
    const [at, query] = screen.getByRole('link', { name: 'Look at them' }).getAttribute('href')!.split('?');
    expect(at).toBe('/shoots/a/cull');
    expect(addressed(`?${query}`)).toMatchObject({ view: 'sheet', filter: { standing: 'reject' } });
  });

  it('are said to be none, or too young, and the age is kept', async () => {
    const { unmount } = show(shoot('a', '2999-01-01', 2, 2e6));
    await words('No shoot that is at least a year old has rejects; 1 younger one has some.');
    await age('0');
    await screen.findByRole('button', { name: 'Put 2 frames into the bin' });
    unmount();
    show();
    expect((screen.getByLabelText('Shoots') as HTMLSelectElement).value).toBe('0');
    await words('No shoot has rejects in the archive.');
  });

  it('that could not go are named with the reason', async () => {
    refused = [{ shoot: 'Shoot a', reason: 'Its files are being moved.' }];
    show(shoot('a', '2019-01-01', 2, 2e6));
    await press('Put 2 frames into the bin');
    expect(await screen.findByText('Shoot a: Its files are being moved. Its rejects stayed.')).toBeTruthy();
  });

  it('have their age in words', () => {
    expect([0, 1, 3, 12, 24].map(ageWords)).toEqual([
      ...['whatever their age', 'at least a month old', 'at least 3 months old'],
      ...['at least a year old', 'at least 2 years old'],
    ]);
  });
});

describe('copies that are more than wanted', () => {
  const show = (spare: Api['SpareOfDto'][], spareCount = spare.length) =>
    render(
      <MemoryRouter>
        <SpareCopies
          space={{ spare, spareCount, spareBytes: 4e6, required: 2 } as Api['SpaceDto']}
          onDone={() => undefined}
        />
      </MemoryRouter>,
    );
  const of = (id: string, online: boolean): Api['SpareOfDto'] => ({
    ...shoot(id, '2020-01-01', 1, 2e6),
    ...{ volumeId: `v${id}`, volume: `Drive ${id}`, online, files: 7 },
  });

  it('are offered drive by drive; one that is away waits for its drive', () => {
    show([of('a', true), of('b', false)], 5);
    const group = screen.getByRole('group', { name: 'More copies than wanted' });
    expect(group.textContent).toContain('5 shoots have files with more than 2 copies on as many disks: 4 MB');
    expect(
      within(group)
        .getAllByRole('button')
        .map((one) => one.textContent),
    ).toEqual(['Take it off “Drive a” …']);
    expect(group.textContent).toContain('“Drive b” is not connected');
    expect(group.textContent).toContain('and 3 smaller ones');
  });

  it('are said to be none', () => {
    show([]);
    expect(screen.getByRole('group').textContent).toContain('No file has more than the 2 copies');
  });
});
