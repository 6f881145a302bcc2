import type { KeyboardEvent } from 'react';
import { useBindings } from '../data/bindings';
import { pressNames } from '../keys/pressed';

/** The key that opened a dialog closes it, whatever it is bound to and on every layout. `id`: of its action. */
export function useClosingKey(id: string, onClose: () => void): (event: KeyboardEvent) => void {
  const bindings = useBindings();
  return ({ nativeEvent }) => {
    // A key that is still held from opening it is no second press.
    if (nativeEvent.repeat) return;
    if (bindings.boundTo(pressNames(nativeEvent))?.id === id) onClose();
  };
}
