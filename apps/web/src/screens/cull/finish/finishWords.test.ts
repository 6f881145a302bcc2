import { NO_FRAME, finishFacts, type LoadedFrame } from '../../../data/frames';
import { finishedVersions } from '../versions';
import { placeShown, spotInFile, spotShown } from './spots';
import { shownValue, typedValue } from './finishWords';

describe('values of finishing as they are read and typed', () => {
  it('show the way they go, and as many digits as mean something', () => {
    expect(shownValue('exposure', 0.35)).toBe('+0.35');
    expect(shownValue('temperature', -12)).toBe('−12');
    expect(shownValue('angle', 0)).toBe('0.0');
  });

  it.each([
    ['+0.35', 0.35],
    ['−12', -12],
    [' 0,5 ', 0.5],
    ['.5', 0.5],
    ['', null],
    ['1e3', null],
    ['a third', null],
  ])('are typed as %j', (text, value) => expect(typedValue(text)).toBe(value));
});

describe('a frame that is finished', () => {
  const frame = (finish: string, edited: string | null = null): LoadedFrame => {
    const plain = { ...NO_FRAME, id: 'a', picture: 'k', edited, width: 600, height: 400, finish };
    return { ...plain, ...finishFacts(plain, finish) };
  };

  it('is shown by another picture, but where an edit shows it', () => {
    expect(frame('mono=plain').picture).toBe('k~1:mono=plain');
    expect(frame('mono=plain', 'edited').picture).toBe('k');
    expect(frame('').finished).toBeNull();
    // Given again, nothing is put on what is there already.
    expect(finishFacts(frame('mono=plain'), 'mono=red').picture).toBe('k~1:mono=red');
  });

  it('is looked at as it is and as its camera took it', () => {
    expect(finishedVersions(frame('mono=plain')).map(({ picture }) => picture)).toEqual([
      'k~1:mono=plain',
      'k',
    ]);
    expect(finishedVersions(frame(''))).toEqual([]);
    expect(finishedVersions(frame('mono=plain', 'edited'))).toEqual([]);
  });

  it('has its note where it points to in the file, however it is cropped', () => {
    const cropped = frame('crop=own:0.25:0.25:0.5');
    expect(spotInFile(cropped, { x: 1, y: 1 })).toEqual({ x: 0.5, y: 0.5 });
    expect(spotShown(cropped, { x: 0.25, y: 0.25 })).toEqual({ x: 0.5, y: 0.5 });
    expect(spotShown(cropped, { x: 0.75, y: 0.25 })).toBeNull();
    expect(placeShown(cropped, { x: 0.75, y: 0.25 }).x).toBe(1.5);
    expect(spotShown(frame(''), { x: 0.75, y: 0.25 })).toEqual({ x: 0.75, y: 0.25 });
  });
});
