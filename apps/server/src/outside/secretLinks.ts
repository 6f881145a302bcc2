import { createHash, randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { comparedCode, LONGEST_CODE, passCode } from '@arkiv/core';
import { Guesses } from '../access/guesses';
import { derive, isWord, LIGHT } from '../access/secretWord';
import { SecretBox } from '../access/secretBox';
import { Clock } from '../system/clock';

/** Bytes of what makes an address: nobody comes upon 2¹²⁸. */
const TOKEN = 16;
/** As they stand in addresses: 128 bits in base64url (RFC 4648, 5). */
const TOKEN_SHAPE = /^[A-Za-z0-9_-]{22}$/;
/** Random bytes for a code of eight signs: of 256 values 250 are fair. */
const CODE_BYTES = 64;

/** What is kept of an address that opens something, and of its pass code: nothing that opens it. */
export interface SecretLink {
  id: string;
  /** SHA-256 of the address's own part: 128 random bits */
  tokenHash: string;
  /** that part and the pass code, encrypted, to be told to whom it is for */
  secret: string;
  /** scrypt of the pass code, with its salt; null: none is asked for */
  codeHash: string | null;
  codeSalt: string | null;
}

/** Addresses that nobody guesses, with or without a pass code. */
@Injectable()
export class SecretLinks {
  private readonly guesses = new Guesses(() => this.clock.now());

  constructor(
    private readonly box: SecretBox,
    private readonly clock: Clock,
  ) {}

  async make(id: string, withCode: boolean): Promise<SecretLink> {
    const token = newToken();
    const code = withCode ? passCode(randomBytes(CODE_BYTES)) : null;
    const salt = randomBytes(TOKEN);
    return {
      ...{ id, tokenHash: hashOf(token), secret: await this.box.lock({ token, code }, id) },
      codeHash: code === null ? null : (await derive(comparedCode(code), salt, LIGHT)).toString('hex'),
      codeSalt: code === null ? null : salt.toString('hex'),
    };
  }

  /** What is told to whom an address is for. `name` says of which one it is. Throws `destination.secret` where the key was lost. */
  async told(
    { id, secret }: Pick<SecretLink, 'id' | 'secret'>,
    name: string,
  ): Promise<{ token: string; code: string | null }> {
    return (await this.box.unlock(secret, id, name)) as { token: string; code: string | null };
  }

  /**
   * Whether a code is the one that is asked for; any is where none is. `from`: who guesses, by network address; who shares one with a
   * guesser is not kept out of others' links. Throws `access.slow`.
   */
  isCode({ id, codeHash: hash, codeSalt: salt }: SecretLink, typed: string, from: string): Promise<boolean> {
    const code = comparedCode(typed.slice(0, LONGEST_CODE));
    return this.guesses.check(
      `${id} ${from}`,
      async () => hash === null || salt === null || (await isWord(code, { hash, salt, cost: LIGHT })),
    );
  }
}

/** Something that cannot be guessed, for an address or a browser to hold. */
export const newToken = (): string => randomBytes(TOKEN).toString('base64url');
export const isToken = (text: string): boolean => TOKEN_SHAPE.test(text);
/** Under which an address or a browser is known here. */
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');
