import { render } from '@testing-library/react';
import { nameWindows, screenTitle, useScreenTitle } from './screenTitle';

function Screen({ title }: { title: string }) {
  useScreenTitle(title);
  return null;
}

it('a window bears its screen and its archive, whichever is known first', () => {
  const { rerender } = render(<Screen title="Desk" />);
  expect(document.title).toBe('Desk · Arkiv');
  nameWindows('Weddings');
  expect(document.title).toBe('Desk · Weddings');
  rerender(<Screen title="Files · Press night" />);
  expect([document.title, screenTitle.snapshot()]).toEqual([
    ...['Files · Press night · Weddings', 'Files · Press night'],
  ]);
  rerender(<Screen title="" />);
  expect(document.title).toBe('Weddings');
});
