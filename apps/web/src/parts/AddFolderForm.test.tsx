import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { SWRConfig } from 'swr';
import { ApiFailure } from '../data/http';
import { AddFolderForm } from './AddFolderForm';

const BELONGS = {
  code: 'volume.belongs',
  message: 'It is a drive of the archive “Press”.',
  next: 'Open that one.',
} as const;

describe('a folder that is another archive’s drive', () => {
  const send = jest.fn<Promise<unknown>, [string, string, string, object?]>();
  const onClose = jest.fn();
  const show = async (archive: string, refused: ApiFailure = new ApiFailure(409, BELONGS)) => {
    send.mockReset().mockRejectedValueOnce(refused).mockResolvedValue(undefined);
    onClose.mockReset();
    render(
      <SWRConfig
        value={{
          provider: () => new Map(),
          fetcher: (at: string) => (at === '/settings' ? { archive: { id: 'A', name: archive } } : []),
        }}
      >
        <MemoryRouter>
          <AddFolderForm said="" uses={{ backup: 'backup copies' }} send={send} onClose={onClose} />
        </MemoryRouter>
      </SWRConfig>,
    );
    await userEvent.type(screen.getByRole('combobox', { name: /^Full path/ }), '/media/blue/');
    await userEvent.type(screen.getByLabelText(/^Name/), 'Blue');
    await userEvent.click(screen.getByRole('button', { name: 'Add' }));
  };

  it('is said with whose it is, and has a folder of this archive’s name on it at a press', async () => {
    await show('Weddings: balls?');
    expect((await screen.findByRole('alert')).textContent).toContain('“Press”');
    expect(onClose).not.toHaveBeenCalled();
    await userEvent.click(
      await screen.findByRole('button', { name: 'Use a folder “Weddings_ balls_” on it' }),
    );
    expect(send).toHaveBeenLastCalledWith('/media/blue/Weddings_ balls_', 'Blue', 'backup', undefined);
    expect(onClose).toHaveBeenCalled();
  });

  it('is made this archive’s only by the press that says so', async () => {
    await show('Weddings');
    await userEvent.click(await screen.findByRole('button', { name: 'Make the drive this archive’s' }));
    expect(send.mock.calls).toEqual([
      ['/media/blue/', 'Blue', 'backup', undefined],
      ['/media/blue/', 'Blue', 'backup', { takeOver: true }],
    ]);
  });

  it('is offered no such way where it was refused for another reason', async () => {
    await show('Weddings', new ApiFailure(400, { ...BELONGS, code: 'volume.folder' }));
    await screen.findByRole('alert');
    expect(screen.queryByRole('button', { name: /^Make the drive/ })).toBeNull();
  });
});
