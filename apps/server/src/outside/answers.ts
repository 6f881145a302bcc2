import type { Request, Response } from 'express';

/** A value of an address or a form, where it is text. */
export const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');

/** What a browser holds under a name. */
export function cookieOf({ headers: { cookie = '' } }: Request, called: string): string | null {
  for (const part of cookie.split(';')) {
    const [name, value] = part.trim().split('=');
    if (name === called && value) return value;
  }
  return null;
}

export function sendPage(response: Response, text: string): void {
  response.setHeader('cache-control', 'no-store');
  response.type('html').send(text);
}
