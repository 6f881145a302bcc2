import { fork, type ChildProcess } from 'node:child_process';
import type { LookOrder, MountLook, Probe } from './look';

export type Look =
  { what: 'probe'; root: string; ownFile: string } | { what: 'mount'; root: string; order: LookOrder };

export interface LookAsked {
  id: number;
  ask: Look;
}

/** What the child answers to before it was asked anything: it is there. */
export const THERE = 0;

export interface LookAnswer {
  id: number;
  found?: unknown;
  error?: { code?: string; message: string };
}

/** What a place that does not answer in time is said to be: the code of a disk error, so that it is treated as one. */
export const NO_ANSWER = 'ETIMEDOUT';

/** A drive that slept needs up to this long to turn; measured figures of makers' data sheets, from memory. */
const LIMIT_MILLIS = 8000;
/**
 * What the child may take to start, which is no drive's time: on a machine that boots, or is busy otherwise, all drives would seem to be
 * away. Here it takes some 0.3 s; it only bounds what never comes.
 */
const STARTS_MILLIS = 60_000;
/** Before a place that hung is tried again: each try may cost a thread of the child. */
const AGAIN_MILLIS = 20_000;
/** Threads of the child, and how many may hang before another child takes over: half leaves room for all others. */
const THREADS = 64;
const MOST_HANGING = THREADS / 2;

interface Waiting {
  root: string;
  child: ChildProcess;
  /** from now on the place has so long for its answer */
  wait(millis: number): void;
  answered(answer: LookAnswer): void;
}

/** Looks at places that may hang, in a child process and with a time limit. */
export class Looker {
  private child: ChildProcess | null = null;
  /** the child is there, and does what it is asked at once */
  private isThere = false;
  private readonly waiting = new Map<number, Waiting>();
  /** by root: when it was asked last, while it has not answered */
  private readonly hanging = new Map<string, number>();
  private count = 0;

  constructor(
    private readonly limitMillis = LIMIT_MILLIS,
    private readonly againMillis = AGAIN_MILLIS,
    private readonly startsMillis = STARTS_MILLIS,
  ) {}

  probe(root: string, ownFile: string): Promise<Probe> {
    return this.ask<Probe>({ what: 'probe', root, ownFile });
  }

  mount(order: LookOrder): Promise<MountLook> {
    return this.ask<MountLook>({ what: 'mount', root: order.point, order });
  }

  close(): void {
    const { child } = this;
    if (!child) return;
    child.removeAllListeners('exit');
    child.kill('SIGKILL');
    this.gone(child, 'the server is stopping');
  }

  private ask<T>(ask: Look): Promise<T> {
    const hangs = this.hanging.get(ask.root);
    if (hangs !== undefined && performance.now() - hangs < this.againMillis)
      return Promise.reject(noAnswer(ask.root));
    if (hangs !== undefined) this.hanging.set(ask.root, performance.now());
    const child = this.running();
    const id = ++this.count;
    return new Promise<T>((resolve, reject) => {
      let timer: NodeJS.Timeout;
      const wait = (millis: number): void => {
        clearTimeout(timer);
        timer = setTimeout(() => {
          this.hanging.set(ask.root, performance.now());
          reject(noAnswer(ask.root));
          this.relieve(child);
        }, millis);
      };
      wait(this.isThere ? this.limitMillis : this.startsMillis);
      this.waiting.set(id, {
        ...{ root: ask.root, child, wait },
        answered: ({ found, error }) => {
          clearTimeout(timer);
          this.waiting.delete(id);
          if (error?.code !== NO_ANSWER) this.hanging.delete(ask.root);
          if (error) reject(Object.assign(new Error(error.message), { code: error.code }));
          else resolve(found as T);
        },
      });
      // A child that has just ended says so itself, and whoever waits for it hears of that.
      child.send({ id, ask } satisfies LookAsked, () => undefined);
    });
  }

  private running(): ChildProcess {
    if (this.child) return this.child;
    const child = fork(require.resolve('@arkiv/server/dist/disk/mounts/look.child.js'), {
      env: { ...process.env, UV_THREADPOOL_SIZE: String(THREADS) },
      execArgv: [],
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    child.on('message', (answer: LookAnswer) => {
      if (answer.id !== THERE) return this.waiting.get(answer.id)?.answered(answer);
      this.isThere ||= this.child === child;
      for (const waiting of this.waiting.values())
        if (waiting.child === child) waiting.wait(this.limitMillis);
    });
    child.on('exit', () => this.gone(child, 'the process that looks at drives ended'));
    child.on('error', (error) => this.gone(child, error.message));
    // It must not keep a server alive that wants to end.
    child.unref();
    child.channel?.unref();
    this.child = child;
    this.isThere = false;
    return child;
  }

  private gone(child: ChildProcess, message: string): void {
    if (this.child === child) this.child = null;
    for (const [id, { child: its, answered }] of this.waiting)
      if (its === child) answered({ id, error: { code: NO_ANSWER, message } });
  }

  /** A child with many hanging threads is left to them: killing it may have to wait for the mounts it hangs on. */
  private relieve(child: ChildProcess): void {
    const hanging = [...this.waiting.values()].filter((w) => w.child === child).length;
    if (hanging < MOST_HANGING || this.child !== child) return;
    this.child = null;
    child.kill('SIGKILL');
  }
}

function noAnswer(root: string): Error {
  return Object.assign(new Error(`${NO_ANSWER}: ${root} does not answer`), { code: NO_ANSWER });
}
