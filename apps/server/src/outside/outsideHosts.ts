import os from 'node:os';
import { ArkivError } from '@arkiv/core';
import type { NextFunction, Request, Response } from 'express';
import { isLoopback, type ArkivConfig } from '../config/config';

/** Under which names what is outside answers: this machine's where it is reached directly, and the one that clients are told. */
export function namesOf({ galleryHost, galleryAddress }: ArkivConfig): Set<string> {
  const names = new Set(['localhost', '127.0.0.1', '[::1]', galleryHost.toLowerCase()]);
  if (galleryAddress !== '') names.add(new URL(galleryAddress).hostname.toLowerCase());
  if (isLoopback(galleryHost)) return names;
  names.add(os.hostname().toLowerCase());
  for (const list of Object.values(os.networkInterfaces()))
    for (const { address, family } of list ?? []) names.add(family === 'IPv6' ? `[${address}]` : address);
  return names;
}

/** Refuses requests that were meant for another machine, and changes that another site's page asks for. */
export function ownVisitors(config: ArkivConfig) {
  const names = namesOf(config);
  return (request: Request, response: Response, next: NextFunction): void => {
    const host = (request.headers.host ?? '').toLowerCase();
    const refuse = (status: number, reason: string) => {
      const error = new ArkivError('request.foreign', { reason });
      response.status(status).json(error.body());
    };
    // 421: not for this server (RFC 9110, 15.5.20).
    if (!names.has(host.replace(/:\d+$/, ''))) return refuse(421, `host ${host}`);
    if (request.method !== 'GET' && request.method !== 'HEAD') {
      const { origin } = request.headers;
      const own = [`http://${host}`, `https://${host}`, config.galleryAddress];
      if (origin !== undefined && !own.includes(origin)) return refuse(403, `origin ${origin}`);
      const site = request.headers['sec-fetch-site'];
      if (site !== undefined && site !== 'same-origin') return refuse(403, `from ${String(site)}`);
    }
    next();
  };
}
