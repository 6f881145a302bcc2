/** What of a key press names it; a browser's `KeyboardEvent` has it all. */
export type Press = Pick<KeyboardEvent, 'code' | 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>;

/** Keys of the number pad by their place: with its lock off, or Shift held, they type other things. */
const PAD: Readonly<Record<string, string>> = {
  NumpadAdd: '+',
  NumpadSubtract: '-',
  NumpadDivide: '/',
  NumpadMultiply: '*',
  NumpadDecimal: '.',
  NumpadEnter: 'enter',
};

/** Characters that are keys of their own, wherever a layout has them and with whatever they are typed. */
const CHARACTERS = ['?', '/', '+', '-'];
/** The key beside Backspace enlarges on boards where `+` lies on it, Shift or not; where nothing else is typed by it. */
const ALSO: Readonly<Record<string, string>> = { '=': '+', '−': '-' };

/**
 * The names of a key press, the likeliest first; the first one that a table binds is meant. Letters and digits go by
 * their place on the board (UI Events `code`), so that a hand finds them on every layout; characters go by what is
 * typed (`key`), as do letters with Ctrl or Cmd, which are one: undo lies where Z is written. The number pad goes by
 * place, as `pad4` and, where that is bound to nothing, as the 4 of the row above. Names are lower case, with `ctrl+`, `alt+`, `shift+` before them in this order; a character carries no
 * `shift+`, since layouts differ in what it takes to type it.
 */
export function pressNames(press: Press): string[] {
  const { code, key } = press;
  const command = press.ctrlKey || press.metaKey;
  const held = `${command ? 'ctrl+' : ''}${press.altKey ? 'alt+' : ''}`;
  const shifted = held + (press.shiftKey ? 'shift+' : '');
  const pad = /^Numpad(\d)$/.exec(code)?.[1];
  const onPad = pad ?? PAD[code];
  if (onPad !== undefined) return [`${held}pad${onPad}`, held + onPad];
  const character = ALSO[key] ?? key;
  const typed = CHARACTERS.includes(character) ? [held + character] : [];
  const letter = /^Key([A-Z])$/.exec(code)?.[1]?.toLowerCase();
  if (letter !== undefined) {
    // Where no Latin letter is typed, as on a Cyrillic layout, the place has to do.
    const written = command && /^[a-z]$/i.test(key) ? key.toLowerCase() : letter;
    return [...typed, shifted + written];
  }
  const digit = /^Digit(\d)$/.exec(code)?.[1];
  if (digit !== undefined) {
    if (!press.shiftKey) return [held + digit, ...typed];
    // Where the row types digits with Shift only, one typed so is meant as one.
    return [...typed, ...(/^\d$/.test(key) ? [held + key] : []), shifted + digit];
  }
  if (typed.length > 0) return typed;
  const name = key === ' ' ? 'space' : key.toLowerCase();
  return [shifted + name];
}
