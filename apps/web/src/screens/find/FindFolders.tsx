import { useEffect } from 'react';
import { count } from '../../data/format';
import { ALL_FOLDERS, folderAsked, pathOf, withFolder } from '../../data/folderPart';
import { useGet } from '../../data/useGet';
import { FolderWalk } from '../../parts/FolderWalk';
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
  const within = data?.folders ?? [];
  // Where nothing lies in the folder itself there is nothing to choose, but the way back from a link that did.
  const chooses = data !== undefined && within.length > 0 && path !== '' && (data.own > 0 || !asked.below);
  return (
    <FolderWalk
      around={[{ path: '', name: 'All folders' }, ...pathOf(path)]}
      within={within}
      below={
        chooses
          ? {
              shown: asked.below,
              title: `${count(data.own)} of ${count(data.frames)} lie in the folder itself`,
              onChange: (below) => onLine(withFolder(line, { path, below })),
            }
          : null
      }
      onGo={(to) => onLine(withFolder(line, { path: to, below: true }))}
    />
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
