import { act, render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { SWRConfig } from 'swr';
import type { Api } from '../data/http';
import { JobCard } from './JobCard';
import { jobWords } from './JobSign';

const job = (more: object): Api['JobDto'] =>
  ({
    ...{
      id: 'J',
      kind: 'verify',
      deed: null,
      title: 'Old pictures',
      shootId: null,
      state: 'done',
      reason: null,
    },
    ...{
      filesDone: 3,
      filesFailed: 2,
      filesTotal: 5,
      bytesDone: 1,
      bytesTotal: 1,
      finishedAt: 1,
      seen: true,
    },
    ...{ trouble: null, behind: null, ...more },
  }) as unknown as Api['JobDto'];

describe('a job that reads copies', () => {
  const acts = async (more: object) => {
    render(
      <SWRConfig value={{ provider: () => new Map(), fetcher: () => [] }}>
        <MemoryRouter>
          <JobCard job={job(more)} />
        </MemoryRouter>
      </SWRConfig>,
    );
    await act(async () => undefined);
    return screen.getAllByRole('button').map(({ textContent }) => textContent);
  };

  it('is called what it does: nothing is read again that was never read', () => {
    expect(['running', 'done', 'paused'].map((state) => jobWords(job({ state })))).toEqual([
      ...[
        'Verifying again Old pictures',
        'Verified again Old pictures',
        'Verifying again Old pictures: paused',
      ],
    ]);
    expect(['running', 'done'].map((state) => jobWords(job({ state, deed: 'first-reading' })))).toEqual([
      ...['Reading whole for the first time: Old pictures', 'Read whole for the first time: Old pictures'],
    ]);
    expect(jobWords(job({ kind: 'move', deed: 'rename' }))).toBe('Renamed frames of Old pictures');
  });

  it('offers good copies for what is damaged', async () =>
    expect(await acts({})).toEqual(
      expect.arrayContaining(['Repair from good copies', 'Verify these again']),
    ));

  it('offers none where there is no other copy: what was read for the first time', async () => {
    const offered = await acts({ deed: 'first-reading' });
    expect(offered).toContain('Try the failed again');
    expect(offered.filter((words) => /Repair|Verify/.test(words ?? ''))).toEqual([]);
  });
});
