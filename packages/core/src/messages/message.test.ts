import { DEFAULT_MESSAGES, filledMessage, isAddress, messageProblem, MESSAGE_KINDS } from './message';

const VALUES = {
  ...{ name: 'Wilma', title: 'First look', shoot: 'Autumn catalogue', link: 'https://pictures.example/g/x' },
  ...{ code: 'ABCD-WXY3', until: '4 Dec 2026', pictures: '21 pictures', chosen: '3 of 8' },
  ...{ studio: 'Ockham & Daughters', creator: 'Ines Ockham' },
};

describe('A message', () => {
  it('says what its fields mean', () => {
    expect(filledMessage(DEFAULT_MESSAGES.invite, VALUES)).toEqual({
      subject: 'Your pictures: First look',
      text: `Hello Wilma,

your pictures are here, 21 pictures:
https://pictures.example/g/x
Pass code: ABCD-WXY3
You can look at them until 4 Dec 2026.

Ines Ockham
Ockham & Daughters`,
    });
  });

  it('leaves out the lines that have nothing to say, and greets whom it does not know', () => {
    const { text } = filledMessage(DEFAULT_MESSAGES.invite, { ...VALUES, name: '', code: '', until: '' });
    expect(text).toBe(`Hello,

your pictures are here, 21 pictures:
https://pictures.example/g/x

Ines Ockham
Ockham & Daughters`);
  });

  it('has one line of subject, whatever a title holds', () => {
    const { subject } = filledMessage(
      { subject: 'To you: {title}', text: 'x' },
      { title: 'a\r\nBcc: all@example' },
    );
    expect(subject).toBe('To you: a Bcc: all@example');
    expect(filledMessage({ subject: '{shoot}: {pictures}', text: 'x' }, { shoot: 'Regatta' }).subject).toBe(
      'Regatta',
    );
  });

  it('fills once: what a value says in braces stays as it is', () => {
    const words = { subject: 's', text: '{title} {link}' };
    expect(filledMessage(words, { title: '{link}', link: 'L' }).text).toBe('{link} L');
  });

  it.each(MESSAGE_KINDS)('has nothing wrong with it as it comes: %s', (kind) => {
    expect(messageProblem(DEFAULT_MESSAGES[kind])).toBeNull();
    const { subject, text } = filledMessage(DEFAULT_MESSAGES[kind], VALUES);
    expect(`${subject}${text}`).not.toMatch(/[{}]/);
  });

  it.each([
    [{ subject: ' ', text: 'x' }, /subject/],
    [{ subject: 'a\nb', text: 'x' }, /one line/],
    [{ subject: 'x'.repeat(201), text: 'x' }, /200/],
    [{ subject: 'x', text: ' \n' }, /words/],
    [{ subject: 'x', text: 'x'.repeat(10_001) }, /10000/],
    [{ subject: 'x', text: 'to {nmae}' }, /no field \{nmae\}.*\{name\}/],
    [{ subject: '{constructor}', text: 'x' }, /no field/],
  ])('says what is wrong with it: %j', (words, problem) => expect(messageProblem(words)).toMatch(problem));
});

it('is to one address', () => {
  expect(['a@b.example', 'ä.b+c@mail.client.example'].map(isAddress)).toEqual([true, true]);
  const none = [
    '',
    'a',
    'a@b',
    '@b.example',
    'a@b.example, c@d.example',
    'A <a@b.example>',
    'a@b.example\nBcc: x@y.z',
  ];
  expect(none.map(isAddress)).toEqual(none.map(() => false));
});
