import { ArkivError } from '@arkiv/core';
import type { NextFunction, Request, Response } from 'express';
import type { Access } from './access.service';

/** The token that a browser holds under that name, or null. */
export function tokenOf(request: Request, cookie: string): string | null {
  for (const part of (request.headers.cookie ?? '').split(';')) {
    const [name, value] = part.trim().split('=');
    if (name === cookie && value) return value;
  }
  return null;
}

/** Lets only those in who are signed in, where that is asked for. The interface itself holds nothing and is for all. */
export function signedIn(access: Access) {
  return (request: Request, response: Response, next: NextFunction): void => {
    if (!access.required || request.path === '/session') return next();
    access.isIn(tokenOf(request, access.cookie)).then((isIn) => {
      if (isIn) return next();
      const error = new ArkivError('access.needed', {});
      response.status(error.status).json(error.body());
    }, next);
  };
}
