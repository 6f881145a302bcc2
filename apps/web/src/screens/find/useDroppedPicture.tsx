import { useCallback, useEffect, useRef, type DragEvent } from 'react';
import { postBytes } from '../../data/http';
import { useAction } from '../../parts/useAction';
import styles from './Find.module.css';

const hasFiles = (event: DragEvent): boolean => event.dataTransfer.types.includes('Files');

/** A picture from elsewhere, dropped here or pasted: the frame that it was made from is looked for, or what looks like it. */
export function useDroppedPicture(
  onLike: (like: string, original: boolean) => void,
  say: (words: string) => void,
) {
  const { run, busy, error } = useAction(async (file: File) => {
    const { like, original } = await postBytes(`/find/picture?name=${encodeURIComponent(file.name)}`, file);
    onLike(like, original);
    say(
      original
        ? 'The frame that this picture was made from stands first'
        : 'No frame is surely this picture: what looks like it is shown, if anything does',
    );
  });
  const take = useCallback((file: File | undefined) => file && run(file), [run]);
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const file = [...(event.clipboardData?.files ?? [])].find(({ type }) => type.startsWith('image/'));
      if (!file) return;
      event.preventDefault();
      take(file);
    };
    window.addEventListener('paste', paste);
    return () => window.removeEventListener('paste', paste);
  }, [take]);
  return {
    ...{ take, busy, error },
    hands: {
      onDragOver: (event: DragEvent) => {
        if (hasFiles(event)) event.preventDefault();
      },
      onDrop: (event: DragEvent) => {
        if (!hasFiles(event)) return;
        event.preventDefault();
        take(event.dataTransfer.files[0]);
      },
    },
  };
}

/** For hands that neither drop nor paste: the file is chosen. */
export function PictureButton({ onPicture }: { onPicture: (file: File | undefined) => void }) {
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <button
        type="button"
        className={styles.picture}
        title="A copy, a cut or a screenshot finds the frame it was made from. It can be dropped or pasted here as well."
        onClick={() => field.current?.click()}
      >
        By a picture …
      </button>
      <input
        ref={field}
        type="file"
        accept="image/*"
        aria-label="A picture whose frame is looked for"
        hidden
        onChange={(event) => {
          onPicture(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
    </>
  );
}
