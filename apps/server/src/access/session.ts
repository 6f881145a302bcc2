import { ArkivError } from '@arkiv/core';
import type { NextFunction, Request, Response } from 'express';
import type { Access } from './access.service';

/** Browsers send a cookie to every port of a machine: archives that stand beside each other have one each. */
export const cookieOf = ({ socket }: Pick<Request, 'socket'>): string => `arkiv_session_${socket.localPort}`;

/** The token that a browser holds, or null. */
export function tokenOf(request: Request): string | null {
  const cookie = cookieOf(request);
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
    access.isIn(tokenOf(request)).then((isIn) => {
      if (isIn) return next();
      const error = new ArkivError('access.needed', {});
      response.status(error.status).json(error.body());
    }, next);
  };
}
