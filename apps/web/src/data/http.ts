import type { ErrorBody } from '@arkiv/core';
import type { components } from './api';
import type { Answer, Known, Sent } from './apiTypes';
import { serverState } from './serverState';
import { session } from './session';
import { heard } from './stream';

/** The shapes of the API, made from the server's own classes. */
export type Api = components['schemas'];

/** A failure as the server words it; `status` 0 means that the server could not be reached. */
export class ApiFailure extends Error {
  constructor(
    readonly status: number,
    readonly body: Pick<ErrorBody, 'code' | 'message' | 'next'>,
  ) {
    super(body.message);
  }
}

async function request<T>(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  const bytes = body instanceof Blob;
  const type = bytes ? 'application/octet-stream' : 'application/json';
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: { 'x-arkiv': '1', ...(body === undefined ? {} : { 'content-type': type }) },
      body: body === undefined ? undefined : bytes ? body : JSON.stringify(body),
      signal,
    });
  } catch (error) {
    // Whoever asked has asked for something else since.
    if (signal?.aborted) throw error;
    serverState.lost();
    throw new ApiFailure(0, {
      code: 'internal',
      message: 'Arkiv’s server cannot be reached.',
      next: 'Start it again; nothing that was marked is lost.',
    });
  }
  const text = await response.text();
  serverState.answered();
  heard(response.headers.get('x-arkiv-event'));
  if (!response.ok) {
    const failure = new ApiFailure(response.status, failureOf(text, response.status));
    if (failure.body.code === 'access.needed') session.lost();
    throw failure;
  }
  return (text ? JSON.parse(text) : undefined) as T;
}

function failureOf(text: string, status: number): Pick<ErrorBody, 'code' | 'message' | 'next'> {
  try {
    const body = JSON.parse(text) as ErrorBody;
    if (typeof body.message === 'string') return body;
  } catch {
    // not from our server: said below
  }
  return { code: 'internal', message: `The server answered with status ${status}.`, next: 'Try again.' };
}

/** Asks for what stands at an address of the contract. */
export const get = <const P extends string>(path: P & Known<'get', P>): Promise<Answer<'get', P>> =>
  request('GET', path);
export const post = <const P extends string>(
  path: P & Known<'post', P>,
  ...[body]: Sent<'post', P>
): Promise<Answer<'post', P>> => request('POST', path, body ?? {});
/** A question that is given up when the next is asked: rejects with the signal's reason then. */
export const postUntil = <const P extends string>(
  signal: AbortSignal,
  path: P & Known<'post', P>,
  ...[body]: Sent<'post', P>
): Promise<Answer<'post', P>> => request('POST', path, body ?? {}, signal);
export const put = <const P extends string>(
  path: P & Known<'put', P>,
  ...[body]: Sent<'put', P>
): Promise<Answer<'put', P>> => request('PUT', path, body);
export const patch = <const P extends string>(
  path: P & Known<'patch', P>,
  ...[body]: Sent<'patch', P>
): Promise<Answer<'patch', P>> => request('PATCH', path, body);
export const del = <const P extends string>(path: P & Known<'delete', P>): Promise<Answer<'delete', P>> =>
  request('DELETE', path);

/** A file's bytes, for an address that takes them as they are. */
export const postBytes = <const P extends string>(
  path: P & Known<'post', P>,
  bytes: Blob,
): Promise<Answer<'post', P>> => request('POST', path, bytes);

/** For what is kept under its address: there the contract was asked when the address was written, see `useGet`. */
export const fetchKept = (path: string): Promise<unknown> => request('GET', path);
