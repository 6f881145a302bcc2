/** Everything the server's stream can say. */
export const EVENT_TYPES = [
  'job',
  'marks',
  'frames',
  'shoots',
  'volumes',
  'readers',
  'settings',
  'sidecar',
  'reset',
] as const;
export type EventType = (typeof EVENT_TYPES)[number];

export interface StreamMessage {
  type: EventType;
  data: unknown;
}
