import { act, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter, Route, Routes } from 'react-router';
import { SWRConfig } from 'swr';
import { CarriedScreen } from '../carried/CarriedScreen';
import { CarriedRows } from './CarriedRows';
import { OthersDrives } from './OthersDrives';

const shoot = (id: string, known: boolean) => ({
  id,
  title: `Shoot ${id}`,
  date: '2026-10-16',
  frames: 3,
  known,
});

describe('shoots that another archive left on a drive', () => {
  let carried: object[];
  let asked: string[];
  const answers: Record<string, unknown> = {
    '/jobs': [{ id: 'J', kind: 'carry', state: 'done', title: '“Laptop”, on “Travel”', filesFailed: 0 }],
    '/carried/results/J': {
      ...{ shoots: 1, frames: 0, decisions: 2, missing: 1, reason: null },
      named: [
        {
          ...{ id: 'G', shootId: 'S', here: 'night_0003', name: 'night_0003' },
          ...{ folder: 'night', place: 'night/rejects' },
        },
      ],
      out: [
        { id: 'H', shootId: 'S', name: 'night_0004' },
        { id: 'I', shootId: 'S', name: 'night_0005' },
      ],
      both: [
        {
          ...{ shootId: 'S', subject: 'F', name: 'night_0002', kind: 'stars' },
          ...{ here: 2, there: 4, stands: 'there' },
        },
      ],
    },
    '/settings': { labels: {}, labelWords: {}, stages: [], archive: { id: 'A', name: 'Studio' } },
  };
  beforeEach(() => {
    asked = [];
    carried = [
      {
        ...{ volumeId: 'V', volume: 'Travel', archive: 'Laptop', jobId: null },
        shoots: [shoot('a', false), shoot('b', true)],
      },
    ];
  });
  const fetcher = (where: string) => Promise.resolve(where === '/carried' ? carried : answers[where]);
  const show = () => {
    global.fetch = jest.fn(async (where: unknown, { method }: { method?: string } = {}) => {
      asked.push(`${method ?? 'GET'} ${String(where)}`);
      return {
        ...{ ok: true, status: 200, headers: new Headers() },
        text: async () => JSON.stringify({ jobId: 'J', jobIds: ['K'], stay: 0 }),
      };
    }) as unknown as typeof fetch;
    return render(
      <SWRConfig value={{ provider: () => new Map(), fetcher }}>
        <MemoryRouter>
          <Routes>
            <Route path="/" element={<CarriedRows />} />
            <Route path="/carried/:jobId" element={<CarriedScreen />} />
          </Routes>
        </MemoryRouter>
      </SWRConfig>,
    );
  };

  it('are named with what comes of taking them in, which leads to what came, and to both sides where they differ', async () => {
    show();
    const row = await screen.findByRole('group', { name: 'Travel' });
    expect(row.textContent).toContain('“Laptop” had “Travel”');
    expect(within(row).getByRole('list').textContent).toMatch(/Shoot a.*not here yet.*Shoot b.*here already/);
    await userEvent.click(screen.getByRole('button', { name: 'Take them in' }));
    expect(asked).toEqual(['POST /api/carried/V']);
    expect(await screen.findByText(/1 shoot was taken in/)).not.toBeNull();
    expect(screen.getByText(/1 file is not where/)).not.toBeNull();
    const cells = screen.getAllByRole('cell').map((cell) => cell.textContent);
    expect(cells).toEqual(['night_0002', 'stars', '2★', '4★', 'what was decided there']);
    expect(screen.getByRole('link', { name: 'night_0002' }).getAttribute('href')).toBe(
      '/shoots/S/cull?frame=F',
    );
    // What was done with files there is done here at a press, and not before.
    expect(screen.getByText('night_0003 → rejects')).not.toBeNull();
    expect(screen.getByText('night_0004, night_0005')).not.toBeNull();
    expect(asked).toHaveLength(1);
    await userEvent.click(screen.getByRole('button', { name: 'Into the bin here too: 2 frames' }));
    expect(asked.at(-1)).toBe('POST /api/carried/results/J/bin');
    expect(await screen.findByText('Begun: see Jobs')).not.toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Do it here too: 1 frame' }));
    expect(asked.at(-1)).toBe('POST /api/carried/results/J/names');
  });

  it('can be left as they are, and are no part of the Desk where there are none', async () => {
    show();
    await userEvent.click(await screen.findByRole('button', { name: 'Leave as it is' }));
    expect(asked).toEqual(['POST /api/carried/V/leave']);
    carried = [];
    const { container } = show();
    await act(async () => {});
    expect(container.textContent).toBe('');
  });

  it('bring drives that are another archive’s, which nobody is asked to connect', () => {
    render(<OthersDrives volumes={[{ id: 'W', name: 'Working drive', heldBy: 'Studio', files: 72 }]} />);
    expect(screen.getByRole('listitem').textContent).toBe(
      'Working drive of “Studio”: 72 files of shoots that came from there',
    );
  });
});
