/** Everything the server's stream can say. */
export const EVENT_TYPES = [
  'job',
  'marks',
  'measured',
  'compared',
  'frames',
  'shoots',
  'volumes',
  'readers',
  'uploads',
  'settings',
  'piles',
  'albums',
  'vocabulary',
  'bin',
  'passes',
  'heard',
  'returns',
  'posted',
  'sent',
  'destinations',
  'gallery',
  'mail',
  'watch',
  'adopted',
  'sidecar',
  'sidecars',
  'reset',
] as const;
export type EventType = (typeof EVENT_TYPES)[number];

export interface StreamMessage {
  /**
   * `hello`: the stream is open; its data is the id of the event that it carries on behind. `away`, `back`: the server
   * cannot be heard any more, and is heard again.
   */
  type: EventType | 'hello' | 'away' | 'back';
  data: unknown;
  /** of a server's event */
  id?: string;
}
