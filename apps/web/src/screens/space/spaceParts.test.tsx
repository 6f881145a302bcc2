import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import type { Api } from '../../data/http';
import { addressed } from '../cull/address';
import { OldRejects } from './OldRejects';
import { SpareCopies } from './SpareCopies';
import { ageWords } from './spaceWords';

const shoot = (id: string, date: string, frames: number, bytes: number) => ({
  ...{ id, title: `Shoot ${id}`, date, frames, bytes },
});

describe('rejects that could go', () => {
  const asked: { where: string; body: unknown }[] = [];
  let refused: object[] = [];
  const done = jest.fn();
  beforeEach(() => {
    localStorage.clear();
    asked.length = 0;
    refused = [];
    done.mockReset();
    global.fetch = jest.fn(async (where: unknown, { body }: { body?: string } = {}) => {
      if (body !== undefined) asked.push({ where: String(where), body: JSON.parse(body) });
      const answer = String(where).includes('/jobs/')
        ? { job: { state: 'done' }, failures: [] }
        : { jobIds: ['J'], refused };
      return { ok: true, status: 200, headers: new Headers(), text: async () => JSON.stringify(answer) };
    }) as unknown as typeof fetch;
  });
  const show = (...shoots: ReturnType<typeof shoot>[]) =>
    render(
      <MemoryRouter>
        <OldRejects shoots={shoots} onDone={done} />
      </MemoryRouter>,
    );
  const age = (months: string) => userEvent.selectOptions(screen.getByLabelText('Shoots'), months);

  it('are those of shoots that are old enough; what is chosen is counted, and goes', async () => {
    show(
      shoot('a', '2019-01-01', 2, 2e6),
      shoot('b', '2020-01-01', 3, 3e6),
      shoot('c', '2999-01-01', 9, 9e6),
    );
    expect(screen.getByRole('group').textContent).toContain('5 frames of 2 shoots, 5 MB on all drives');
    await userEvent.click(screen.getByRole('button', { name: 'Choose among 2 shoots' }));
    await userEvent.click(screen.getByRole('checkbox', { name: 'Shoot a' }));
    await userEvent.click(screen.getByRole('button', { name: 'Put 3 frames into the bin' }));
    expect(asked).toEqual([{ where: '/api/space/rejects', body: { shootIds: ['b'] } }]);
    expect(done).toHaveBeenCalledTimes(1);
  });

  it('are looked at before: the way there shows the rejects of that shoot alone', async () => {
    show(shoot('a', '2019-01-01', 2, 2e6));
    await userEvent.click(screen.getByRole('button', { name: 'Choose among 1 shoot' }));
    const [at, query] = screen.getByRole('link', { name: 'Look at them' }).getAttribute('href')!.split('?');
    expect(at).toBe('/shoots/a/cull');
    expect(addressed(`?${query}`)).toMatchObject({ view: 'sheet', filter: { standing: 'reject' } });
  });

  it('are said to be none, or too young, and the age is kept', async () => {
    const { unmount } = show(shoot('a', '2999-01-01', 2, 2e6));
    expect(screen.getByRole('group').textContent).toContain(
      'No shoot that is at least a year old has rejects; 1 younger one has some.',
    );
    await age('0');
    expect(screen.getByRole('button', { name: 'Put 2 frames into the bin' })).toBeTruthy();
    unmount();
    show();
    expect((screen.getByLabelText('Shoots') as HTMLSelectElement).value).toBe('0');
    expect(screen.getByRole('group').textContent).toContain('No shoot has rejects in the archive.');
  });

  it('that could not go are named with the reason', async () => {
    refused = [{ shoot: 'Shoot a', reason: 'Its files are being moved.' }];
    show(shoot('a', '2019-01-01', 2, 2e6));
    await userEvent.click(screen.getByRole('button', { name: 'Put 2 frames into the bin' }));
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
