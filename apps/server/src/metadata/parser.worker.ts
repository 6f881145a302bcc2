// Runs in a thread of its own: what a broken or hostile file makes of a parser ends with the thread.
import {
  findEmbeddedJpegs,
  foreignIn,
  readSidecar,
  SidecarError,
  writeSidecar,
  type EmbeddedJpeg,
  type Foreign,
  type SidecarModel,
} from '@arkiv/core';
import { answer } from '../system/inTime';
import { readTags } from './tags';

export type WrittenSidecar = { ok: true; text: string } | { ok: false; reason: string };

answer({
  tags: (head: Uint8Array) => readTags(Buffer.from(head)),
  embedded: (head: Uint8Array): EmbeddedJpeg[] => findEmbeddedJpegs(head),
  readSidecar: (text: string) => readSidecar(text),
  foreignIn: (text: string): Foreign => foreignIn(text),
  writeSidecar: (model: SidecarModel, existing?: string, foreign?: string): WrittenSidecar => {
    try {
      return { ok: true, text: writeSidecar(model, existing, foreign) };
    } catch (error) {
      if (!(error instanceof SidecarError)) throw error;
      return { ok: false, reason: error.message };
    }
  },
});
