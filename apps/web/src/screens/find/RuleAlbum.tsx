import { useState } from 'react';
import { useNavigate } from 'react-router';
import { AlbumDialog } from '../../parts/AlbumDialog';
import styles from './Find.module.css';

/** Makes an album that holds what a line finds, now and later. */
export function RuleAlbum({ line }: { line: string }) {
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  return (
    <>
      <p className={styles.ofLine}>
        <button type="button" className={styles.also} onClick={() => setOpen(true)}>
          Make a rule album of this line …
        </button>
      </p>
      {open && (
        <AlbumDialog
          rule={line}
          onClose={() => setOpen(false)}
          onMade={({ id }) => void navigate(`/albums/${id}`)}
        />
      )}
    </>
  );
}
