import { readFileSync } from 'node:fs';
import path from 'node:path';
import { ArkivError, errorBody, ERRORS } from './catalogue';

describe('the error catalogue', () => {
  it('fills the details into the words', () => {
    expect(errorBody('card.none', { reader: 'Reader 1' }).message).toBe(
      'There is no card in reader “Reader 1”.',
    );
    expect(new ArkivError('not-found', { what: 'shoot', id: 'x' }).status).toBe(404);
  });

  it('is what docs/errors.md lists', () => {
    const docs = readFileSync(path.join(__dirname, '../../../../docs/errors.md'), 'utf8');
    const listed = [...docs.matchAll(/^\| `([a-z.-]+)` \| (\d+) \| (.*) \| (.*) \|$/gm)].map((m) =>
      m.slice(1),
    );
    expect(listed).toEqual(
      Object.entries(ERRORS).map(([code, { status, message, next }]) => [
        code,
        String(status),
        message,
        next,
      ]),
    );
  });
});
