import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { useState, type KeyboardEvent } from 'react';
import type { Action } from '../../keys/actions';
import { Bindings, shownKey, THEN, type OwnKeys } from '../../keys/bindings';
import { pressNames } from '../../keys/pressed';
import { INK, STRIKE_TEXT } from '../../theme/theme';
import styles from './Keys.module.css';

interface Props {
  action: Action;
  /** the key that is changed; null: one more */
  keyNow: string | null;
  bindings: Bindings;
  onKeep: (own: OwnKeys) => void;
  onClose: () => void;
}

/** Keys that say nothing alone, and the one that leaves a field. */
/** The dialog is drawn after what stands in it is made: its field has the focus as soon as it is there. */
const takeFocus = (field: HTMLElement | null): void => field?.focus();

const NOT_TAKEN = ['Shift', 'Control', 'Alt', 'AltGraph', 'Meta', 'CapsLock', 'NumLock', 'Dead', 'Tab'];

/** Takes the next key press for an action; says whose key it was before anything is kept. */
export function KeyDialog({ action, keyNow, bindings, onKeep, onClose }: Props) {
  const [pressed, setPressed] = useState<string[]>([]);
  const key = pressed.join(THEN);
  const inTheWay = key === '' ? [] : bindings.inTheWay(key, action);
  const has = bindings.keysOf(action).includes(key);
  const hear = (event: KeyboardEvent) => {
    if (NOT_TAKEN.includes(event.key) || event.repeat) return;
    event.preventDefault();
    event.stopPropagation();
    const name = pressNames(event.nativeEvent)[0]!;
    // A second press makes it one key after the other, a third begins anew.
    setPressed((before) => (before.length === 1 ? [before[0]!, name] : [name]));
  };
  const without = keyNow === null ? bindings : new Bindings(bindings.without(keyNow, action));
  return (
    <Dialog
      open
      disableAutoFocus
      onClose={onClose}
      transitionDuration={0}
      aria-labelledby="key-title"
      maxWidth="xs"
      fullWidth
    >
      <DialogTitle id="key-title">{action.does}</DialogTitle>
      <DialogContent>
        <div
          ref={takeFocus}
          tabIndex={0}
          role="group"
          aria-label="The key to press"
          className={styles.pressed}
          onKeyDown={hear}
        >
          {key === '' ? (
            <span style={{ color: INK.faint, fontSize: 15 }}>
              Press the key{keyNow !== null && `, instead of ${shownKey(keyNow)}`}
            </span>
          ) : (
            shownKey(key)
          )}
        </div>
        <Box role="status" sx={{ minHeight: 44, mt: 1, color: INK.soft }}>
          {inTheWay.length > 0 ? (
            <Box component="span" sx={{ color: STRIKE_TEXT }}>
              It is taken from: {inTheWay.map(({ does }) => does).join(' · ')}.
            </Box>
          ) : has ? (
            'It has this key already.'
          ) : (
            pressed.length === 1 && 'Nothing else has it. A second key makes it one after the other.'
          )}
        </Box>
      </DialogContent>
      <DialogActions>
        {keyNow !== null && (
          <Button color="inherit" onClick={() => onKeep(bindings.without(keyNow, action))}>
            Take {shownKey(keyNow)} away
          </Button>
        )}
        <Box sx={{ flex: 1 }} />
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button
          variant="contained"
          disabled={key === '' || has}
          onClick={() => onKeep(without.with(key, action))}
        >
          {inTheWay.length > 0 ? 'Take it from there' : 'Keep'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
