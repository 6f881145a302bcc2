import './style.css';
import './shapes.css';
import { el } from './dom';
import { Sheet } from './sheet';
import { chosenWords, type Now, type PageState, type Saying } from './state';
import { Talk } from './talk';
import { Viewer } from './viewer';

const page = JSON.parse(document.getElementById('state')!.textContent!) as PageState;
const status = document.querySelector<HTMLElement>('.said')!;
const bar = document.querySelector<HTMLElement>('.bar')!;
const words = el('span');
const send = el('button', { type: 'button', class: 'main' }, 'Send our choice');
bar.append(words, send);

/** How long words on what went wrong stay: they are read in three seconds, twice. */
const TROUBLE = 6000;
let clearing = 0;
function tell(text: string): void {
  status.textContent = text;
  window.clearTimeout(clearing);
  clearing = window.setTimeout(() => (status.textContent = ''), TROUBLE);
}

/** Pictures that came, went or were made anew since the page was written; nobody who is choosing is interrupted for them. */
const newerWords = el('span');
const showThem = el('button', { type: 'button', onclick: () => location.reload() }, 'Show them');
const newer = el('p', { class: 'said newer', role: 'status', hidden: true }, newerWords, showThem);
document.body.append(newer);
function tellNewer({ count, stamp }: Now['pictures']): void {
  newer.hidden = stamp === page.now.pictures.stamp;
  newerWords.textContent = `The pictures were changed: there are ${count} by now.`;
}

const talk = new Talk(page.base, page.now, () => show(), tell);
const say = (saying: Saying) => talk.say(saying);
const sheet = new Sheet(
  page.pictures,
  (saying) => void say(saying),
  (i) => {
    history.pushState({}, '', `#${page.pictures[i]!.key}`);
    viewer.open(i);
  },
  () => show(),
);
const viewer = new Viewer(
  page,
  () => talk.now,
  () => sheet.visible(talk.now),
  say,
  (i) => {
    if (i === null) {
      if (location.hash !== '') history.replaceState({}, '', location.pathname);
      if (last !== null) sheet.focus(last);
    } else if (location.hash !== `#${page.pictures[i]!.key}`)
      history.replaceState({}, '', `#${page.pictures[i]!.key}`);
    last = i;
  },
);
let last: number | null = null;

function show(): void {
  const { now } = talk;
  sheet.show(now);
  if (viewer.isOpen) viewer.show();
  bar.hidden = !now.rights.choose;
  words.textContent = chosenWords(now);
  tellNewer(now.pictures);
  send.disabled = Object.keys(now.chosen).length === 0 || now.sent !== null;
}

send.addEventListener('click', () => {
  void say({ kind: 'sent' }).then((heard) => heard && tell('Thank you: your choice was sent.'));
});

/** The address says which picture is looked at: for Back, for a reload, and for whoever the link is sent to. */
function byAddress(): void {
  const at = page.pictures.findIndex(({ key }) => `#${key}` === location.hash);
  if (at >= 0) viewer.open(at);
  else if (viewer.isOpen) viewer.close();
}
window.addEventListener('popstate', byAddress);

// Others of the client may choose at the same time.
const live = new EventSource(`${page.base}/live`);
live.addEventListener('message', () => void talk.look());
let isFirst = true;
live.addEventListener('open', () => {
  // What was said while the line was gone is not told afterwards.
  if (!isFirst) void talk.look();
  isFirst = false;
});
document.addEventListener(
  'visibilitychange',
  () => document.visibilityState === 'visible' && void talk.look(),
);
show();
byAddress();
