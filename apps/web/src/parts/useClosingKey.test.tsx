import { fireEvent, render, screen } from '@testing-library/react';
import type { OwnKeys } from '../keys/bindings';
import { useClosingKey } from './useClosingKey';

const settings: { keys: OwnKeys } = { keys: {} };
jest.mock('../data/live', () => ({ useSettings: () => ({ data: settings }) }));

const closed = jest.fn();
function Passes() {
  const onKeyDown = useClosingKey('passes', closed);
  return <input aria-label="any" onKeyDown={onKeyDown} />;
}

/** How often it was closed by a press. */
const after = (press: object): number => {
  closed.mockClear();
  fireEvent.keyDown(screen.getByLabelText('any'), press);
  return closed.mock.calls.length;
};

it('a dialog is closed by the key that opened it, by its place on every layout, and not by one that is held', () => {
  settings.keys = {};
  render(<Passes />);
  expect(after({ code: 'KeyM', key: 'm' })).toBe(1);
  expect(after({ code: 'KeyM', key: 'ь' })).toBe(1);
  expect(after({ code: 'KeyM', key: 'm', repeat: true })).toBe(0);
  expect(after({ code: 'KeyN', key: 'n' })).toBe(0);
});

it('a dialog whose key was changed is closed by the new one', () => {
  settings.keys = { passes: ['j'] };
  render(<Passes />);
  expect(after({ code: 'KeyJ', key: 'j' })).toBe(1);
  expect(after({ code: 'KeyM', key: 'm' })).toBe(0);
});
