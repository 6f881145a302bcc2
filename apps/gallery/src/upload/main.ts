import { isSendable } from '@arkiv/core';
import { UploadQueue, wayTo, type ChosenFile } from '@arkiv/sending';
import { Screen } from './screen';
import type { Now, PageState } from './state';
import { ask } from './talk';
import { arrivedWords } from './words';

const {
  base,
  hash,
  studio,
  now: first,
} = JSON.parse(document.getElementById('state')!.textContent!) as PageState;
const status = document.querySelector<HTMLElement>('.said')!;
let now: Now = first;

const queue = new UploadQueue(
  wayTo({
    ...{ endpoint: `${base}/streams`, headers: {} },
    worker: () => new Worker(hash, { type: 'module' }),
    prove: async (_, id, sha256) => void (await ask(`${base}/files/${id}`, { sha256 })),
    whole: async () => (await ask<{ sha256: string }[]>(`${base}/files`)).map((file) => file.sha256),
  }),
);

/** Does something that may be refused, and says so where it is. */
function run(work: () => Promise<void>): void {
  status.textContent = '';
  work().catch((error: Error) => (status.textContent = error.message));
}

async function send(chosen: ChosenFile[]): Promise<void> {
  // Cards and telephones hold more than pictures; what is not asked for is not sent to be refused.
  const sent = chosen.filter(({ path }) => isSendable(path));
  screen.leaveOut(chosen.filter(({ path }) => !isSendable(path)).map(({ path }) => path));
  if (sent.length === 0) return;
  const { id } = await ask<{ id: string }>(`${base}/begin`, {});
  await queue.into(id);
  queue.add(sent);
}

async function look(): Promise<void> {
  now = await ask<Now>(`${base}/state`);
  show();
}

const screen = new Screen(
  document.querySelector<HTMLElement>('.sending')!,
  document.querySelector<HTMLElement>('.left')!,
  ...([base, studio] as const),
  {
    chosen: (files) => run(async () => send(await files)),
    again: () => queue.again(),
    stop: () => {
      queue.stop();
      run(look);
    },
    done: () =>
      run(async () => {
        now = await ask<Now>(`${base}/done`, {});
        queue.clear();
        screen.leaveOut([]);
        status.textContent = arrivedWords(now.sent[0]?.files ?? 0);
        show();
      }),
  },
);

let drawing = false;
function show(): void {
  if (drawing) return;
  drawing = true;
  // Bytes are counted many times a second; each picture of the screen shows them once.
  requestAnimationFrame(() => {
    drawing = false;
    screen.show(queue.snapshot(), now);
  });
}

/** A telephone that goes to sleep sends nothing. Where it cannot be kept awake, its owner does. */
let awake: Promise<WakeLockSentinel | null> | null = null;
function keepAwake(busy: boolean): void {
  if (busy && awake === null && 'wakeLock' in navigator)
    awake = navigator.wakeLock.request('screen').catch(() => null);
  if (busy || awake === null) return;
  void awake.then((lock) => lock?.release());
  awake = null;
}

let wasBusy = false;
queue.subscribe(() => {
  show();
  if (queue.isBusy === wasBusy) return;
  wasBusy = queue.isBusy;
  keepAwake(wasBusy);
  // What is left by the link is other by now.
  if (!wasBusy) void look().catch(() => undefined);
});
// The system lets go of what keeps it awake when the page is out of sight.
document.addEventListener('visibilitychange', () => {
  if (document.visibilityState !== 'visible' || !queue.isBusy) return;
  awake = null;
  keepAwake(true);
});
addEventListener('beforeunload', (event) => {
  if (queue.isBusy) event.preventDefault();
});
show();
