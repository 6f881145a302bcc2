import { shownName } from '@arkiv/core';
import { count } from '../data/format';
import { previewUrl } from '../data/frames';
import styles from './FolderWalk.module.css';

/** A folder that is walked to. */
export interface WalkedFolder {
  path: string;
  name: string;
  /** in it and below it */
  frames?: number;
  /** key of the picture that stands for it */
  picture?: string;
}

interface Props {
  /** the folders around the one that is shown, the outermost first, and it itself */
  around: readonly WalkedFolder[];
  /** those that lie in it */
  within: readonly WalkedFolder[];
  /** whether what lies below it is shown too; null: there is nothing to choose */
  below: { shown: boolean; title?: string; onChange: (shown: boolean) => void } | null;
  onGo: (path: string) => void;
}

/** Where one is among folders, the way back up, and what lies below. */
export function FolderWalk({ around, within, below, onGo }: Props) {
  return (
    <nav aria-label="Folders" className={styles.walk}>
      {around.map((one, i) => (
        <span key={one.path} className={styles.step}>
          {i > 0 && <span aria-hidden>/</span>}
          <Folder folder={one} isHere={i === around.length - 1} onGo={onGo} />
        </span>
      ))}
      {below && (
        <label className={styles.below} title={below.title}>
          <input
            type="checkbox"
            checked={below.shown}
            onChange={(event) => below.onChange(event.target.checked)}
          />
          with what lies below it
        </label>
      )}
      {within.length > 0 && <span aria-hidden>›</span>}
      {within.map((one) => (
        <Folder key={one.path} folder={one} onGo={onGo} />
      ))}
    </nav>
  );
}

function Folder(props: { folder: WalkedFolder; isHere?: boolean; onGo: (path: string) => void }) {
  const { path, name, frames, picture } = props.folder;
  return (
    <button
      type="button"
      aria-current={props.isHere ? 'location' : undefined}
      onClick={() => props.onGo(path)}
    >
      {picture !== undefined && <img src={previewUrl(picture, 'thumb')} alt="" width={42} height={28} />}
      {shownName(name)}
      {frames !== undefined && ` · ${count(frames)}`}
    </button>
  );
}
