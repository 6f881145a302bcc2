import { Box } from '@mui/material';
import { useEffect, useRef, useState, useSyncExternalStore, memo } from 'react';
import { ApiFailure } from '../../data/http';
import { numberOf, previewUrl, uprightSize, type LoadedFrame } from '../../data/frames';
import { pictureTries } from '../../data/pictureTries';
import { INK, SURROUNDS } from '../../theme/theme';
import { ahead, decoded, readyPicture } from './pictureCache';

/** How much of the picture's detail is on screen. */
export interface Detail {
  words: string;
  full: boolean;
}

interface Props {
  frame: LoadedFrame;
  /** pictures to hold ready, the likeliest first */
  neighbours: readonly string[];
  surround: number;
  onDetail: (detail: Detail) => void;
}

/**
 * Says honestly what is shown: with at least as many pixels as the screen can show here, detail is full for this
 * size; with fewer, a soft picture may only be a small one.
 */
export function detailOf(
  shownWidth: number,
  frameWidth: number | null,
  boxWidth: number,
  better: boolean,
): Detail {
  const wanted = Math.min(boxWidth, frameWidth ?? boxWidth);
  // One pixel is lost to rounding when a picture is fitted.
  if (shownWidth + 1 >= wanted) return { words: 'full detail at this size', full: true };
  return { words: `${shownWidth} of ${wanted} px${better ? ', loading full detail' : ''}`, full: false };
}

const NOTHING_TO_SHOW = 'This frame has no picture. It is kept, copied and marked like all others.';

/** One frame, as large as the window lets it be; nothing lies on it or beside it. */
export const SingleView = memo(function SingleView({ frame, neighbours, surround, onDetail }: Props) {
  const stage = useRef<HTMLDivElement>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const tries = useSyncExternalStore(pictureTries.subscribe, pictureTries.snapshot);
  const failed = useRef(false);
  const [attempt, setAttempt] = useState(0);
  useEffect(() => {
    // Only a picture that could not be shown is begun anew.
    if (failed.current) setAttempt(tries);
  }, [tries]);
  /** pixels of the stage as the browser last told them: asking for them costs a layout with each key */
  const room = useRef({ width: 0, height: 0 });
  const told = useRef<() => void>(() => undefined);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      if (!entry) return;
      room.current = entry.contentRect;
      told.current();
    });
    if (stage.current) observer.observe(stage.current);
    return () => observer.disconnect();
  }, []);
  const size = uprightSize(frame);
  const frameWidth = size?.width ?? null;
  const { picture, name } = frame;

  useEffect(() => {
    let gone = false;
    let rank = 0;
    setFailure(null);
    failed.current = false;
    const box = stage.current;
    if (!box) return;
    if (!picture) {
      box.replaceChildren();
      onDetail({ words: 'no picture', full: true });
      return;
    }
    const put = (image: HTMLImageElement, quality: 1 | 2) => {
      if (gone || quality < rank) return;
      rank = quality;
      image.alt = `Frame ${numberOf(name)}`;
      image.dataset.quality = quality === 2 ? 'screen' : 'embedded';
      if (box.firstChild !== image) box.replaceChildren(image);
      say();
    };
    const say = () => {
      const image = box.firstChild as HTMLImageElement | null;
      const { width, height } = room.current;
      if (!image || width === 0) return;
      const aspect = image.naturalWidth / image.naturalHeight;
      const shown = Math.min(width, height * aspect);
      onDetail(
        detailOf(image.naturalWidth, frameWidth, Math.round(shown * window.devicePixelRatio), rank < 2),
      );
    };
    const large = previewUrl(picture, 'screen');
    const first = readyPicture(large);
    if (first) put(first, 2);
    else {
      // Better the old picture gone than a wrong one under the new caption.
      const quick = readyPicture(previewUrl(picture, 'embedded'));
      if (quick) put(quick, 1);
      else {
        box.replaceChildren();
        onDetail({ words: 'loading', full: false });
        decoded(previewUrl(picture, 'embedded')).then(
          (image) => put(image, 1),
          () => undefined,
        );
      }
      decoded(large).then(
        (image) => put(image, 2),
        () => {
          // Given up, as another frame is looked at by now: nobody asks why.
          if (gone) return;
          void explain(large).then((words) => {
            if (gone) return;
            failed.current = true;
            setFailure(words);
            onDetail({ words: 'not decoded', full: false });
          });
        },
      );
    }
    told.current = say;
    return () => {
      gone = true;
      told.current = () => undefined;
    };
  }, [picture, name, frameWidth, onDetail, attempt]);

  useEffect(() => {
    for (const sha256 of neighbours) ahead(previewUrl(sha256, 'screen'));
  }, [neighbours]);

  return (
    <Box
      sx={{
        position: 'relative',
        minWidth: 0,
        minHeight: 0,
        height: '100%',
        bgcolor: SURROUNDS[surround],
      }}
    >
      <Box
        ref={stage}
        data-testid="stage"
        sx={{
          width: '100%',
          height: '100%',
          display: 'grid',
          placeItems: 'center',
          '& img': { width: '100%', height: '100%', objectFit: 'contain', minWidth: 0, minHeight: 0 },
        }}
      />
      {(failure ?? (!picture && NOTHING_TO_SHOW)) && (
        <Box sx={{ position: 'absolute', insetInline: 0, bottom: 24, display: 'grid', placeItems: 'center' }}>
          <Box role="alert" sx={{ maxWidth: 640, px: 2, py: 1, bgcolor: '#171717', color: INK.full }}>
            {failure ?? NOTHING_TO_SHOW}
          </Box>
        </Box>
      )}
    </Box>
  );
});

async function explain(url: string): Promise<string> {
  try {
    const response = await fetch(url);
    const body = (await response.json()) as { message?: string; next?: string };
    return `${body.message ?? 'The picture cannot be shown.'} ${body.next ?? ''}`;
  } catch (error) {
    return error instanceof ApiFailure ? error.message : 'The picture cannot be fetched from the server.';
  }
}
