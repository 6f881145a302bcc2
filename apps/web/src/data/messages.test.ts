import { DEFAULT_MESSAGES, filledMessage } from '@arkiv/core';
import { fieldsOf } from './messages';

const GALLERY = { title: 'First look', until: Date.UTC(2026, 11, 4), frames: 21, chosen: [], most: 8 };
const LINK = { name: 'Wilma', address: 'https://pictures.example/g/x', code: 'ABCD-WXY3' };
const STUDIO = { studio: 'Ockham', creator: 'Ines', shoot: 'Autumn' };

it('says in messages where a gallery stands', () => {
  expect(fieldsOf(GALLERY, LINK, STUDIO)).toMatchObject({
    ...{ name: 'Wilma', title: 'First look', pictures: '21 pictures', chosen: '0 of 8' },
    until: expect.stringMatching(/4.*2026|2026.*4/) as string,
  });
  const any = fieldsOf({ ...GALLERY, most: 0, frames: 1 }, LINK, STUDIO);
  expect([any.chosen, any.pictures]).toEqual(['0 pictures', '1 picture']);
});

it('says nothing of what there is not: no code, no end, nothing to choose', () => {
  const fields = fieldsOf({ ...GALLERY, until: null, most: null }, { ...LINK, code: null }, STUDIO);
  expect([fields.code, fields.until, fields.chosen]).toEqual(['', '', '']);
  const { text } = filledMessage(DEFAULT_MESSAGES.invite, fields);
  expect(text).not.toMatch(/code|until/);
  expect(text).toContain(LINK.address);
});
