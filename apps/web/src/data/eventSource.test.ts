/** @jest-environment node */
import { openStream } from './eventSource';
import type { StreamMessage } from './eventTypes';

/** The browser's source of events, played by hand. */
class PlayedSource {
  static readonly CLOSED = 2;
  static made: PlayedSource[] = [];
  readyState = 1;
  private readonly heard = new Map<string, ((event: unknown) => void)[]>();
  constructor() {
    PlayedSource.made.push(this);
  }
  addEventListener(type: string, listener: (event: unknown) => void): void {
    this.heard.set(type, [...(this.heard.get(type) ?? []), listener]);
  }
  play(type: string, data: unknown = {}, lastEventId = ''): void {
    this.heard.get(type)?.forEach((listener) => listener({ data: JSON.stringify(data), lastEventId }));
  }
}

describe('the stream of events in a browser', () => {
  let told: StreamMessage[];
  const types = () => told.map(({ type }) => type);
  const source = () => PlayedSource.made.at(-1)!;
  beforeEach(() => {
    jest.useFakeTimers();
    PlayedSource.made = [];
    Object.assign(globalThis, { EventSource: PlayedSource });
    told = [];
    openStream((message) => told.push(message));
  });
  afterEach(() => {
    jest.clearAllTimers();
    jest.useRealTimers();
  });

  it('says hello with the event it carries on behind, and hands on what it hears', () => {
    source().play('hello', {}, 'S-7');
    source().play('marks', { shootId: 's' }, 'S-8');
    expect(told).toEqual([
      { type: 'hello', data: 'S-7' },
      { type: 'marks', data: { shootId: 's' }, id: 'S-8' },
    ]);
  });

  it('says at once that the server is away, once, and when it is back', () => {
    source().play('open');
    source().play('error');
    source().play('error');
    expect(types()).toEqual(['away']);
    source().play('open');
    expect(types()).toEqual(['away', 'back']);
  });

  it('takes silence for absence, and a beat for presence', () => {
    source().play('open');
    for (let i = 0; i < 6; i++) {
      jest.advanceTimersByTime(20_000);
      source().play('beat');
    }
    expect(types()).toEqual([]);
    jest.advanceTimersByTime(51_000);
    expect(types()).toEqual(['away']);
    source().play('beat');
    expect(types()).toEqual(['away', 'back']);
  });

  it('asks again where it was refused, and has everything loaded anew when it is let in', () => {
    source().play('hello', {}, 'S-1');
    source().readyState = PlayedSource.CLOSED;
    source().play('error');
    expect(PlayedSource.made).toHaveLength(1);
    jest.advanceTimersByTime(2_000);
    expect(PlayedSource.made).toHaveLength(2);
    source().play('hello', {}, 'S-9');
    expect(types()).toEqual(['hello', 'away', 'back', 'hello', 'reset']);
    source().play('hello', {}, 'S-10');
    expect(types().filter((type) => type === 'reset')).toHaveLength(1);
  });
});
