/** What is left to send and what was sent, as the server wrote it. */
export interface Now {
  /** bytes that may still come */
  left: number;
  upload: { id: string; files: number; bytes: number } | null;
  sent: { id: string; files: number; bytes: number }[];
}

export interface PageState {
  base: string;
  /** where the worker that reads files is found */
  hash: string;
  studio: string;
  now: Now;
}
