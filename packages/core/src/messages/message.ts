/** What stands in braces in a message's words, with what it becomes. */
export const MESSAGE_FIELDS = {
  name: 'whom it is to',
  title: 'the gallery’s title',
  shoot: 'the shoot’s title',
  link: 'the address of the gallery',
  code: 'the pass code',
  until: 'the last day on which the gallery is open',
  pictures: 'how many pictures: “21 pictures”',
  chosen: 'how many of them are chosen: “3 of 8”',
  studio: 'the studio’s name',
  creator: 'who writes',
} as const;
export type MessageField = keyof typeof MESSAGE_FIELDS;

/** What clients are written: an invitation to a gallery, a word before it closes, pictures that lie beside the words. */
export const MESSAGE_KINDS = ['invite', 'reminder', 'pictures'] as const;
export type MessageKind = (typeof MESSAGE_KINDS)[number];

export interface MessageWords {
  subject: string;
  text: string;
}

/** Characters of a subject: what programs show of one in a list, three times over. */
export const LONGEST_SUBJECT = 200;
/** Characters of a message's words: four pages. */
export const LONGEST_TEXT = 10_000;

/** Pictures beside a message at most: one or two are meant, and a pair of them; more are for a gallery. */
export const MOST_BESIDE = 4;
/** Whether something looks like one address; whether anybody is there only a server knows. */
export const isAddress = (text: string): boolean => /^[^\s@,;]+@[^\s@,;]+\.[^\s@,;]+$/.test(text);

export const DEFAULT_MESSAGES: Readonly<Record<MessageKind, MessageWords>> = {
  invite: {
    subject: 'Your pictures: {title}',
    text: [
      'Hello {name},',
      '',
      'your pictures are here, {pictures}:',
      '{link}',
      'Pass code: {code}',
      'You can look at them until {until}.',
      '',
      '{creator}',
      '{studio}',
    ].join('\n'),
  },
  reminder: {
    subject: 'Your choice: {title}',
    text: [
      'Hello {name},',
      '',
      'your pictures can be looked at until {until}, and {chosen} are chosen so far:',
      '{link}',
      'Pass code: {code}',
      '',
      '{creator}',
      '{studio}',
    ].join('\n'),
  },
  pictures: {
    subject: '{shoot}: {pictures}',
    text: ['Hello {name},', '', 'here you have {pictures} of “{shoot}”.', '', '{creator}', '{studio}'].join(
      '\n',
    ),
  },
};

const FIELD = /\{([^{}\n]*)\}/g;

/** What is wrong with a message's words; null: nothing. */
export function messageProblem({ subject, text }: MessageWords): string | null {
  if (subject.trim() === '') return 'A message needs a subject.';
  if (/[\r\n]/.test(subject)) return 'A subject is one line.';
  if (subject.length > LONGEST_SUBJECT) return `A subject has ${LONGEST_SUBJECT} characters at most.`;
  if (text.trim() === '') return 'A message needs words.';
  if (text.length > LONGEST_TEXT) return `A message has ${LONGEST_TEXT} characters at most.`;
  for (const [, field] of `${subject}\n${text}`.matchAll(FIELD))
    if (!Object.hasOwn(MESSAGE_FIELDS, field!))
      return `There is no field {${field}}: choose of ${Object.keys(MESSAGE_FIELDS)
        .map((one) => `{${one}}`)
        .join(', ')}.`;
  return null;
}

/**
 * A message with its fields filled. A line that has a field with nothing to say is left out (a code where none is asked for), but for
 * greetings: of “Hello {name},” stays “Hello,”.
 */
export function filledMessage(
  { subject, text }: MessageWords,
  values: Readonly<Partial<Record<MessageField, string>>>,
): MessageWords {
  const filled = (words: string) =>
    words.replace(FIELD, (whole, field: string) =>
      Object.hasOwn(MESSAGE_FIELDS, field) ? (values[field as MessageField] ?? '') : whole,
    );
  const isSilent = (line: string) =>
    [...line.matchAll(FIELD)].some(
      ([, field]) =>
        field !== 'name' && Object.hasOwn(MESSAGE_FIELDS, field!) && !values[field as MessageField],
    );
  const lines = text
    .split('\n')
    .filter((line) => !isSilent(line))
    .map((line) => filled(values.name ? line : line.replace(/ ?\{name\}/g, '')));
  return {
    // What is left of a field that says nothing is no mark at the end of it.
    subject: filled(subject)
      .replace(/\s+/g, ' ')
      .replace(/^[\s:,–-]+|[\s:,–-]+$/g, ''),
    text: lines
      .join('\n')
      .replace(/\n{3,}/g, '\n\n')
      .trim(),
  };
}
