import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import type { Request } from 'express';

const LOOPBACK = /^(127\.|::1$|::ffff:127\.)/;

/** Whether who asks sits at the computer on which Arkiv runs. What came through another server may come from anywhere. */
export function isFromHere({ socket, headers }: Pick<Request, 'socket' | 'headers'>): boolean {
  const { remoteAddress = '', localAddress } = socket;
  if (headers['x-forwarded-for'] !== undefined || headers.forwarded !== undefined) return false;
  return LOOPBACK.test(remoteAddress) || (remoteAddress !== '' && remoteAddress === localAddress);
}

/** Lets in only who sits at this computer: programs are started on it, and its paths are told. */
@Injectable()
export class FromHere implements CanActivate {
  canActivate(context: ExecutionContext): boolean {
    if (!isFromHere(context.switchToHttp().getRequest<Request>()))
      throw new ArkivError('opening.elsewhere', {});
    return true;
  }
}
