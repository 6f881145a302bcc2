import { useEffect } from 'react';
import { shownName } from '@arkiv/core';
import { count } from '../../data/format';
import { ALL_FOLDERS, folderAsked, pathOf, withFolder } from '../../data/folderPart';
import { useGet } from '../../data/useGet';
import styles from './Find.module.css';

interface Props {
  line: string;
  onLine: (line: string) => void;
  /** changes whenever something was found: frames may have come since */
  found: unknown;
}

/** The folders of the archive as they lie on its drives: where one is, what is in it, and the way back up. Nothing until one is asked for. */
export function FindFolders({ line, onLine, found }: Props) {
  const asked = folderAsked(line);
  const path = asked?.path ?? '';
  const { data, mutate } = useGet(asked ? `/find/folders?path=${encodeURIComponent(path)}` : null);
  useEffect(() => void mutate(), [found, mutate]);
  if (!asked) return null;
  const go = (to: string): void => onLine(withFolder(line, { path: to, below: true }));
  return (
    <nav aria-label="Folders" className={styles.folders}>
      <button type="button" aria-current={path === '' ? 'location' : undefined} onClick={() => go('')}>
        All folders
      </button>
      {pathOf(path).map((one) => (
        <span key={one.path} className={styles.step}>
          <span aria-hidden>/</span>
          <button
            type="button"
            aria-current={one.path === path ? 'location' : undefined}
            onClick={() => go(one.path)}
          >
            {shownName(one.name)}
          </button>
        </span>
      ))}
      {/* Where nothing lies in the folder itself there is nothing to choose, but the way back from a link that did. */}
      {data && data.folders.length > 0 && path !== '' && (data.own > 0 || !asked.below) && (
        <label
          className={styles.check}
          title={`${count(data.own)} of ${count(data.frames)} lie in the folder itself`}
        >
          <input
            type="checkbox"
            checked={asked.below}
            onChange={(event) => onLine(withFolder(line, { path, below: event.target.checked }))}
          />
          with what lies below it
        </label>
      )}
      {data && data.folders.length > 0 && <span aria-hidden>›</span>}
      {data?.folders.map((one) => (
        <button key={one.path} type="button" onClick={() => go(one.path)}>
          {shownName(one.name)} · {count(one.frames)}
        </button>
      ))}
    </nav>
  );
}

/** Shows the folders, or asks for none any more. */
export function FoldersButton({ line, onLine }: Pick<Props, 'line' | 'onLine'>) {
  const shown = folderAsked(line) !== null;
  return (
    <button
      type="button"
      className={styles.picture}
      aria-pressed={shown}
      title="Walk the archive’s folders as they lie on the drives"
      onClick={() => onLine(withFolder(line, shown ? null : ALL_FOLDERS))}
    >
      Folders
    </button>
  );
}
