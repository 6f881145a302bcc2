import { act, render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { SWRConfig } from 'swr';
import { UploadsScreen } from './UploadsScreen';

const LINK = {
  ...{ id: 'L', title: 'Rehearsal', name: '', most: 5e9, came: 0, until: null },
  ...{ address: 'http://studio.example/u/abc', code: null },
};

describe('the page of uploads', () => {
  it.each(['/uploads', '/gallery-place'])(
    'shows no link before what %s says above it is there: it would move under a hand',
    async (last) => {
      const answers = new Map<string, unknown>([
        ['/uploads', []],
        ['/uploads/links', [LINK]],
        ['/gallery-place', { open: true, problem: null }],
      ]);
      let answer = (): void => undefined;
      const fetcher = (at: string) =>
        at !== last
          ? (answers.get(at) ?? {})
          : new Promise((resolve) => (answer = () => resolve(answers.get(at))));
      render(
        <SWRConfig value={{ fetcher, provider: () => new Map() }}>
          <MemoryRouter>
            <UploadsScreen />
          </MemoryRouter>
        </SWRConfig>,
      );
      // As long as what is answered at once needs.
      for (let i = 0; i < 5; i++) await act(() => new Promise((resolve) => setTimeout(resolve, 10)));
      expect(screen.queryByRole('group', { name: 'Rehearsal' })).toBeNull();
      await act(async () => answer());
      expect(await screen.findByRole('button', { name: 'Take it back: Rehearsal' })).toBeTruthy();
    },
  );
});
