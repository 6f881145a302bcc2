import { ArkivError } from '@arkiv/core';
import type { NextFunction, Request, Response } from 'express';

/** The header that our pages send with everything that changes something; a form on another site cannot. */
export const OWN_HEADER = 'x-arkiv';
const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]']);

/**
 * Lets only our own pages in: the Host must be loopback or the configured one (against DNS rebinding), and a
 * request that changes something needs our header and, where the browser names one, our own origin.
 */
export function ownPages(configuredHost: string, network: boolean) {
  return (request: Request, response: Response, next: NextFunction): void => {
    const host = request.headers.host ?? '';
    const name = host.replace(/:\d+$/, '');
    const refuse = (reason: string) => {
      const error = new ArkivError('request.foreign', { reason });
      response.status(error.status).json(error.body());
    };
    // Beyond loopback the machine has names that nobody lists; a session's cookie is not sent under a foreign one.
    if (!network && !LOOPBACK.has(name) && name !== configuredHost) return refuse(`host ${name}`);
    if (!['GET', 'HEAD', 'OPTIONS'].includes(request.method)) {
      if (request.headers[OWN_HEADER] === undefined) return refuse('a header is missing');
      const origin = request.headers.origin;
      if (origin !== undefined && origin !== `${network ? 'https' : 'http'}://${host}`)
        return refuse(`origin ${origin}`);
    }
    next();
  };
}
