import { ArkivError, formatWords, type FileKind } from '@arkiv/core';

/** Why nothing of a file can be shown, in words. */
export function noPicture(file: string, { role, format }: Pick<FileKind, 'role' | 'format'>): ArkivError {
  return role === 'clip'
    ? new ArkivError('picture.clip', { file })
    : new ArkivError('picture.none', { file, format: formatWords(format) });
}
