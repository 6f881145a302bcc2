import type { paths } from './api';

/**
 * What may be asked of the server, by the addresses as they are written in the code: `/jobs/${id}/retry` is found among
 * the contract's own (`/api/jobs/{id}/retry`), and with it what has to be sent and what comes back.
 */
export type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';

type WithoutQuery<S extends string> = S extends `${infer Place}?${string}` ? Place : S;
type Steps<S extends string> = S extends `${infer First}/${infer Rest}` ? [First, ...Steps<Rest>] : [S];

/** Whether an address leads where the contract says, step by step; `{id}` stands for anything. */
type Leads<Said extends string[], Asked extends string[]> = Said extends [
  infer S extends string,
  ...infer SaidRest extends string[],
]
  ? Asked extends [infer A extends string, ...infer AskedRest extends string[]]
    ? S extends `{${string}}`
      ? Leads<SaidRest, AskedRest>
      : A extends S
        ? Leads<SaidRest, AskedRest>
        : false
    : false
  : Asked extends []
    ? true
    : false;

/**
 * The contract's own address of one that is asked for, the one that is written so before one with a part that stands for
 * anything; never: there is none that takes this method.
 */
type Found<M extends Method, P extends string> = P extends string
  ? `/api${WithoutQuery<P>}` extends infer K extends keyof paths
    ? paths[K] extends Record<M, object>
      ? K
      : never
    : Led<M, P>
  : never;

type Led<M extends Method, P extends string> = {
  [K in keyof paths & string]: paths[K] extends Record<M, object>
    ? K extends `/api${infer Said}`
      ? Leads<Steps<Said>, Steps<WithoutQuery<P>>> extends true
        ? K
        : never
      : never
    : never;
}[keyof paths & string];

type Operation<M extends Method, P extends string> =
  Found<M, P> extends infer K extends keyof paths ? paths[K][M] : never;

/** The address itself where the contract knows it; else nothing can be passed for it. */
export type Known<M extends Method, P extends string> = [Found<M, P>] extends [never] ? never : P;

/** What has to be sent; nothing where the contract takes no body. */
export type Sent<M extends Method, P extends string> =
  Operation<M, P> extends { requestBody: { content: { 'application/json': infer B } } }
    ? [body: B]
    : [body?: object];

type Told<O> = O extends { responses: infer R } ? Content<R[keyof R & (200 | 201)]> : never;
type Content<R> = R extends { content: { 'application/json': infer B } } ? B : undefined;

/** What comes back. */
export type Answer<M extends Method, P extends string> = Told<Operation<M, P>>;
