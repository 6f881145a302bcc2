import { belongsToControl, leaveControl } from './ownKeys';

function control(html: string): Element {
  document.body.innerHTML = `<main>${html}</main>`;
  return document.querySelector('[data-it]')!;
}
const RADIO = '<div role="radiogroup"><input type="radio" data-it></div>';
const SLIDER = '<input type="range" data-it>';
const STRIP = '<div role="slider" tabindex="0" data-it></div>';
const BUTTON = '<aside><button data-it>x</button></aside>';
const TEXT = '<aside><input type="text" data-it></aside>';
const DIALOG = '<div role="dialog"><button data-it>x</button></div>';

describe('keys of Cull', () => {
  it.each([
    ['a radio', RADIO],
    ['a slider', SLIDER],
    ['the time strip', STRIP],
    ['a button', BUTTON],
  ])('all belong to the screen after a click on %s', (_, html) => {
    for (const name of ['arrowright', 'd', '4', 'enter', 'space', 'home', 'shift+arrowdown'])
      expect([name, belongsToControl(control(html), name, false)]).toEqual([name, false]);
  });

  it.each([
    ['a radio', RADIO, ['arrowright', 'home', 'space']],
    ['a slider', SLIDER, ['arrowright', 'end']],
    ['the time strip', STRIP, []],
    ['a button', BUTTON, ['enter', 'space']],
  ])('work %s that was come to by keys, and nothing else of it', (_, html, own: string[]) => {
    for (const name of ['arrowright', 'home', 'end', 'enter', 'space', 'd', '4', 'ctrl+z'])
      if (own.includes(name))
        expect([name, belongsToControl(control(html), name, true)]).toEqual([name, true]);
    for (const name of ['d', '4', 'l', 'ctrl+z', 'q'])
      expect([name, belongsToControl(control(html), name, true)]).toEqual([name, false]);
    expect(belongsToControl(control(html), 'arrowright', true)).toBe(own.includes('arrowright'));
  });

  it.each([
    ['a button', BUTTON, true],
    ['a text field', TEXT, false],
    ['a button of a dialog', DIALOG, false],
    ['what has opened a menu', '<button aria-haspopup="true" data-it>x</button>', false],
  ])('are the screen’s again after a click on %s, if it is no more than pressed', (_, html, left) => {
    const its = control(html) as HTMLElement;
    its.focus();
    expect(document.activeElement).toBe(its);
    // A click on something else takes nothing from it.
    leaveControl(document.body, its);
    expect(document.activeElement).toBe(its);
    leaveControl(its, document.activeElement);
    expect(document.activeElement === its).toBe(!left);
  });

  it('are letters in a field that is typed in', () => {
    for (const name of ['d', '4', 'arrowleft', 'home', 'escape'])
      expect(belongsToControl(control(TEXT), name, true)).toBe(true);
  });

  it('rest while a dialog is open: Escape closes it and nothing else', () => {
    for (const name of ['d', 'escape', '?'])
      expect(belongsToControl(control(DIALOG), name, false)).toBe(true);
  });
});
