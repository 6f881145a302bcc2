import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { SWRConfig } from 'swr';
import type { Api } from '../../data/http';
import { ArchivesScreen } from './ArchivesScreen';

type Archive = Api['ArchiveHereDto'];
const archive = (name: string, more: Partial<Archive>): Archive => ({
  ...{ folder: `/home/studio/${name}`, name, own: false, open: false, there: true, address: null },
  opened: Date.UTC(2026, 9, 3),
  ...more,
});

describe('the archives of a computer', () => {
  let listed: Archive[];
  const asked: { where: string; body: unknown }[] = [];
  let refuse: object | null = null;
  beforeEach(async () => {
    asked.length = 0;
    refuse = null;
    listed = [
      archive('Weddings', { own: true, open: true, address: 'http://127.0.0.1:4750/' }),
      archive('Press', { open: true, address: 'http://127.0.0.1:4760/' }),
      archive('Old', {}),
      archive('Travel', { there: false }),
      archive('Begins', { open: true }),
    ];
    global.fetch = jest.fn(async (where: unknown, { body }: { body?: string } = {}) => {
      asked.push({ where: String(where), body: JSON.parse(body ?? 'null') });
      const text = refuse === null ? '' : JSON.stringify(refuse);
      return {
        ok: refuse === null,
        status: refuse === null ? 204 : 409,
        headers: new Headers(),
        text: async () => text,
      };
    }) as unknown as typeof fetch;
    render(
      <SWRConfig
        value={{
          provider: () => new Map(),
          fetcher: async (at: string) => (at === '/archives' ? listed : []),
        }}
      >
        <MemoryRouter>
          <ArchivesScreen />
        </MemoryRouter>
      </SWRConfig>,
    );
    await screen.findByRole('listitem', { name: 'Weddings' });
  });
  const line = (name: string) => screen.findByRole('listitem', { name });
  const offers = async (name: string) => [
    ...within(await line(name))
      .queryAllByRole('link')
      .map((one) => one.textContent),
    ...within(await line(name))
      .queryAllByRole('button')
      .map((one) => one.textContent),
  ];

  it('say where each stands, and offer what can be done with it there', async () => {
    expect((await line('Weddings')).textContent).toContain('open in this window');
    expect((await line('Press')).textContent).toContain('open at 127.0.0.1:4760');
    expect((await line('Old')).textContent).toContain('closed; opened last on');
    expect((await line('Travel')).textContent).toContain('its index is not in this folder');
    expect((await line('Begins')).textContent).toContain('is being opened');
    expect(await offers('Weddings')).toEqual(['Close it …']);
    expect(await offers('Press')).toEqual(['Go to it']);
    expect(await offers('Old')).toEqual(['Open', 'Take off this list']);
    expect(await offers('Travel')).toEqual(['Take off this list']);
    expect(await offers('Begins')).toEqual([]);
    expect(
      within(await line('Press'))
        .getByRole('link')
        .getAttribute('href'),
    ).toBe('http://127.0.0.1:4760/');
  });

  it('are taken off the list by their folder, and one that cannot be opened says why', async () => {
    await userEvent.click(within(await line('Travel')).getByRole('button'));
    expect(asked).toEqual([{ where: '/api/archives/forget', body: { folder: '/home/studio/Travel' } }]);
    refuse = {
      code: 'archive.start',
      message: '“Old” could not be opened: its settings.',
      next: 'Put that right.',
    };
    await userEvent.click(within(await line('Old')).getByRole('button', { name: 'Open' }));
    expect((await within(await line('Old')).findByRole('alert')).textContent).toContain(
      'its settings. Put that right.',
    );
  });

  it('end for this page when its own is closed: nothing more is offered there', async () => {
    await userEvent.click(within(await line('Weddings')).getByRole('button'));
    await userEvent.click(screen.getByRole('button', { name: 'Close the archive' }));
    expect(asked.at(-1)!.where).toBe('/api/archives/close');
    expect((await line('Weddings')).textContent).toContain('closed just now');
    expect(screen.queryByRole('button', { name: /^Make or open/ })).toBeNull();
    expect(await offers('Weddings')).toEqual([]);
  });
});
