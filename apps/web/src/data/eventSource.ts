import { EVENT_TYPES, type StreamMessage } from './eventTypes';

/** Milliseconds without a word after which the server counts as away: two of its beats, 20 s apart, and a little. */
const SILENCE = 45_000;
const LOOK = 5_000;
/** Milliseconds until a stream that was refused is asked for again; one that broke off the browser asks for itself. */
const AGAIN = 2_000;

/** The server's stream of events, as messages; `away` and `back` as soon as it breaks off and is there again. */
export function openStream(tell: (message: StreamMessage) => void): void {
  let away = false;
  let heardAt = Date.now();
  /** the stream is not the one that the windows heard last: what came between is unknown */
  let anew = false;
  const isThere = () => {
    heardAt = Date.now();
    if (away) tell({ type: 'back', data: {} });
    away = false;
  };
  const isAway = () => {
    if (!away) tell({ type: 'away', data: {} });
    away = true;
  };
  const open = () => {
    const source = new EventSource('/api/events');
    source.addEventListener('open', isThere);
    source.addEventListener('beat', isThere);
    source.addEventListener('error', () => {
      isAway();
      // Refused (nobody is signed in, say): the browser does not try again by itself.
      if (source.readyState !== EventSource.CLOSED) return;
      anew = true;
      setTimeout(open, AGAIN);
    });
    source.addEventListener('hello', (event) => {
      isThere();
      tell({ type: 'hello', data: event.lastEventId });
      if (anew) tell({ type: 'reset', data: {} });
      anew = false;
    });
    for (const type of EVENT_TYPES)
      source.addEventListener(type, (event) => {
        isThere();
        const { data, lastEventId } = event as MessageEvent<string>;
        tell({ type, data: JSON.parse(data) as unknown, id: lastEventId });
      });
  };
  open();
  setInterval(() => Date.now() - heardAt > SILENCE && isAway(), LOOK);
}
