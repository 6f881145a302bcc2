import { foldText } from './folding';
import { askedWords, asksWords, indexWords, saidOf, type WordCondition } from './words';

describe('text is folded', () => {
  it.each([
    ['Été à la Plage', 'ete a la plage'],
    ['Straße, STRASSE', 'strasse, strasse'],
    ['Bjørn Łódź Þór', 'bjorn lodz thor'],
    ['Οδυσσεύς', 'οδυσσευσ'],
    ['ЁЛКА йод', 'елка иод'],
    ['İstanbul Iğdır', 'istanbul igdir'],
    ['ＡＢＣ１２３', 'abc123'],
    ['ﬁne', 'fine'],
    ['سَلَام', 'سلام'],
  ])('%s to %s', (text, folded) => expect(foldText(text)).toBe(folded));

  it('marks that make another letter stay', () => {
    expect(foldText('हिन्दी')).toBe('हिन्दी');
    expect(foldText('が')).not.toBe(foldText('か'));
    expect(foldText('ภาษาไทย')).toBe('ภาษาไทย'.normalize('NFC'));
    expect(foldText('한국어')).toBe('한국어');
  });

  it('to the same however often', () => {
    for (const text of ['Été', 'Straße', 'İ', 'ｶﾞ', 'ﷺ', 'Ǆ', 'हिन्दी'])
      expect(foldText(foldText(text))).toBe(foldText(text));
  });
});

describe('a text is found by its words', () => {
  it.each([
    ['press-night_20310418_0118', ['press', 'night', '20310418', '0118', '118']],
    ['OCK01234', ['ock01234', '01234', '1234']],
    ['Grey heron, fish!', ['grey', 'heron', 'fish']],
    ['f2 b1', ['f2', 'b1']],
    ['白鷺と魚', ['白', '白鷺', '鷺', '鷺と', 'と', 'と魚', '魚']],
    ['2029年 heron', ['2029', '年', 'heron']],
    ['क्षेत्र पक्षी', ['क्षेत्र', 'पक्षी']],
    ['—', []],
  ])('%s', (text, words) => expect(indexWords(text)).toEqual(words));

  it.each([
    ['heron Heron fish', ['heron', 'fish']],
    ['0118', ['0118']],
    ['白鷺', ['白鷺']],
    ['白', ['白']],
    ['heron白', ['heron', '白']],
    ['?!', []],
  ])('asked for as %s', (text, words) => expect(askedWords(text)).toEqual(words));

  const said = saidOf(['press-night_0118', 'White heron with a fish', 'North Pier', 'Été 白鷺の朝']);
  it.each<[WordCondition, string, boolean]>([
    ['word', 'heron', true],
    ['word', 'HERON fish', true],
    ['word', 'her', false],
    ['word', '118', true],
    ['begins', 'her', true],
    ['begins', 'fish her', true],
    ['begins', 'her fi', false],
    ['phrase', 'white heron', true],
    ['phrase', 'heron white', false],
    ['phrase', 'fish north', false],
    ['phrase', 'north pier', true],
    ['phrase', '白鷺', true],
    ['word', '白鷺', true],
    ['word', '鷺白', false],
    ['word', 'ete', true],
    ['word', '', false],
    ['phrase', '…', false],
  ])('%s “%s”: %s', (condition, text, found) => expect(asksWords(condition, text)(said)).toBe(found));
});
