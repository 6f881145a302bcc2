import { Sheet } from './sheet';
import type { Now, Picture, Saying } from './state';

const PICTURES: Picture[] = ['a', 'b', 'c'].map((key) => ({
  ...{ key, version: 1, name: `night_${key}.jpg`, width: 3, height: 2 },
}));
const NOW: Now = {
  ...{ me: 'Ana', rights: { choose: true, remark: true, download: false }, most: 2, chosen: {} },
  ...{ favourites: [], remarks: {}, sent: null, pictures: { count: 3, stamp: 'a' } },
};

describe('The sheet of a gallery', () => {
  let said: Saying[];
  let opened: number[];
  let sheet: Sheet;
  beforeEach(() => {
    jest.useFakeTimers();
    const cells = PICTURES.map(
      ({ key }) =>
        `<li class="cell" data-key="${key}"><a href="/p/${key}/large"></a><p class="deeds"></p></li>`,
    ).join('');
    document.body.innerHTML = `<div class="shown"></div><ul class="sheet">${cells}</ul><p class="nothing" hidden></p>`;
    [said, opened] = [[], []];
    sheet = new Sheet(
      PICTURES,
      (saying) => said.push(saying),
      (i) => opened.push(i),
      () => sheet.show(NOW),
    );
    sheet.show(NOW);
    jest.runAllTimers();
  });
  afterEach(() => jest.useRealTimers());
  const cell = (i: number) => document.querySelectorAll<HTMLElement>('li')[i]!;
  const button = (i: number, name: RegExp) =>
    [...cell(i).querySelectorAll('button')].find((one) => name.test(one.getAttribute('aria-label')!))!;
  const filter = (name: RegExp) =>
    [...document.querySelectorAll<HTMLButtonElement>('.shown button')].find((one) =>
      name.test(one.textContent!),
    )!;

  it('has its buttons when the browser has time for them, as things stand by then', () => {
    document.querySelectorAll('.deeds button, .by').forEach((one) => one.remove());
    const later = new Sheet(
      PICTURES,
      () => undefined,
      () => undefined,
      () => undefined,
    );
    later.show({ ...NOW, chosen: { b: 'Ben' } });
    expect(document.querySelector('.deeds button')).toBeNull();
    jest.runAllTimers();
    expect(document.querySelectorAll('.deeds button')).toHaveLength(6);
    expect(button(1, /^Choose/).getAttribute('aria-pressed')).toBe('true');
    expect(cell(1).textContent).toContain('chosen by Ben');
  });

  it('says what is pressed, of the picture below which it stands', () => {
    button(1, /^Favourite/).click();
    button(2, /^Choose/).click();
    sheet.show({ ...NOW, favourites: ['b'], chosen: { c: 'Ana' } });
    button(1, /^Favourite/).click();
    button(2, /^Choose/).click();
    expect(said).toEqual([
      { kind: 'favourite', key: 'b', on: true },
      { kind: 'choice', key: 'c', on: true },
      { kind: 'favourite', key: 'b', on: false },
      { kind: 'choice', key: 'c', on: false },
    ]);
  });

  it('lets nobody choose one more than agreed, but take one back', () => {
    sheet.show({ ...NOW, chosen: { a: 'Ben', b: 'Ana' } });
    expect(button(2, /^Choose/).disabled).toBe(true);
    expect(button(0, /^Choose/).disabled).toBe(false);
    expect(cell(0).textContent).toContain('chosen by Ben');
    expect(cell(1).textContent).not.toContain('chosen by');
  });

  it('shows only what is asked for, with how many there are, and says where there are none', () => {
    const now = { ...NOW, favourites: ['c'], remarks: { a: [{} as never] } };
    sheet.show(now);
    expect([...document.querySelectorAll('.shown button')].map((one) => one.textContent)).toEqual([
      'All 3',
      'My favourites 1',
      'Chosen 0',
      'With remarks 1',
    ]);
    filter(/^My favourites/).click();
    sheet.show(now);
    expect([cell(0).hidden, cell(1).hidden, cell(2).hidden]).toEqual([true, true, false]);
    expect(sheet.visible(now)).toEqual([2]);
    filter(/^Chosen/).click();
    sheet.show(now);
    const nothing = document.querySelector<HTMLElement>('.nothing')!;
    expect([nothing.hidden, nothing.textContent]).toEqual([
      false,
      expect.stringContaining('Nothing is chosen yet'),
    ]);
  });

  it('opens a picture by a press, and leaves other tabs to the browser', () => {
    const press = (more: object) => {
      const event = new MouseEvent('click', { bubbles: true, cancelable: true, ...more });
      // A browser would go there.
      document.addEventListener('click', (one) => one.preventDefault(), { once: true });
      cell(1).querySelector('a')!.dispatchEvent(event);
    };
    press({});
    press({ ctrlKey: true });
    expect(opened).toEqual([1]);
  });

  it('is gone through by arrows, past what is not shown', () => {
    const now = { ...NOW, favourites: ['a', 'c'] };
    filter(/^My favourites/).click();
    sheet.show(now);
    cell(0).querySelector('a')!.focus();
    document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }));
    expect(document.activeElement).toBe(cell(2).querySelector('a'));
    document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }));
    expect(document.activeElement).toBe(cell(2).querySelector('a'));
  });
});
