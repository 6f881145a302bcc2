import { Box } from '@mui/material';
import { memo, useEffect, useRef } from 'react';
import { numberOf, previewUrl, secondsOf, type LoadedFrame } from '../../data/frames';
import { many } from '../../data/format';
import { LabelTab, Stars } from '../../parts/Marks';
import { Unseen } from '../../parts/Unseen';
import { CAPTION, GROUND, INK, MARKER, STRIKE, STRIKE_TEXT } from '../../theme/theme';

interface Props {
  /** the take's frames in order of time */
  frames: readonly LoadedFrame[];
  current: string;
  /** hidden by the filter: shown faint, and not gone to */
  hides: (id: string) => boolean;
  onGo: (id: string) => void;
}

/** Pixels: five frames of a burst stand one below the other at 800 pixels of height. */
const WIDTH = 156;

/** The current take as a column beside the picture: all of its frames, with their marks, at one glance. */
export const TakeColumn = memo(function TakeColumn({ frames, current, hides, onGo }: Props) {
  const at = frames.findIndex((f) => f.id === current);
  const [first, last] = [frames[0], frames.at(-1)];
  const seconds =
    first && last && first !== last ? ((last.instant ?? 0) - (first.instant ?? 0)) / 1000 : null;
  return (
    <Box
      component="aside"
      aria-label="Take"
      sx={{
        width: WIDTH,
        flex: 'none',
        display: 'flex',
        flexDirection: 'column',
        minHeight: 0,
        bgcolor: GROUND.base,
        borderLeft: `1px solid ${GROUND.line}`,
      }}
    >
      <Box sx={{ ...CAPTION, px: 1.25, pt: 1, pb: 0.75, color: INK.soft, whiteSpace: 'nowrap' }}>
        {frames.length > 1 ? (
          <>
            <Box component="span" sx={{ color: INK.full, fontWeight: 640 }}>
              {at + 1} of {frames.length}
            </Box>
            {seconds !== null && ` · ${seconds.toFixed(1)} s`}
          </>
        ) : (
          'a single frame'
        )}
      </Box>
      <Box
        component="ol"
        aria-label={many(frames.length, 'frame')}
        sx={{ m: 0, px: 1.25, pt: '3px', pb: 1, flex: 1, minHeight: 0, overflow: 'auto', listStyle: 'none' }}
      >
        {frames.map((frame) => (
          <TakeFrame
            key={frame.id}
            frame={frame}
            current={frame.id === current}
            hidden={hides(frame.id)}
            onGo={onGo}
          />
        ))}
      </Box>
    </Box>
  );
});

const TakeFrame = memo(function TakeFrame({
  frame,
  current,
  hidden,
  onGo,
}: {
  frame: LoadedFrame;
  current: boolean;
  hidden: boolean;
  onGo: (id: string) => void;
}) {
  const item = useRef<HTMLLIElement>(null);
  useEffect(() => {
    // A take that has room for all of its frames scrolls nowhere: asking costs a layout.
    const list = item.current?.parentElement;
    if (current && list && list.scrollHeight > list.clientHeight)
      item.current?.scrollIntoView({ block: 'nearest' });
  }, [current]);
  const reject = frame.verdict === 'reject';
  return (
    <Box component="li" ref={item} sx={{ mb: 0.75, opacity: hidden ? 0.4 : 1 }}>
      <Box
        component="button"
        type="button"
        tabIndex={-1}
        disabled={hidden}
        aria-current={current || undefined}
        // The arrows stay with the picture.
        onMouseDown={(event) => event.preventDefault()}
        onClick={() => onGo(frame.id)}
        sx={{
          display: 'block',
          width: '100%',
          p: '3px',
          border: 0,
          bgcolor: GROUND.deep,
          font: 'inherit',
          color: 'inherit',
          outline: current ? `2px solid ${INK.full}` : 'none',
          '&:hover': { bgcolor: GROUND.raised },
        }}
      >
        <Box sx={{ height: 86, display: 'grid', placeItems: 'center', overflow: 'hidden' }}>
          {frame.picture ? (
            <img
              src={previewUrl(frame.picture, 'thumb')}
              alt=""
              decoding="async"
              draggable={false}
              style={{ maxWidth: '100%', maxHeight: 86, opacity: reject ? 0.4 : 1 }}
            />
          ) : (
            <Box sx={{ color: INK.faint }}>clip</Box>
          )}
        </Box>
        <Box
          sx={{
            ...CAPTION,
            display: 'flex',
            gap: 0.75,
            alignItems: 'center',
            fontSize: 12,
            lineHeight: '18px',
            color: INK.soft,
          }}
        >
          <Box
            component="span"
            aria-hidden
            sx={{
              width: 8,
              height: 8,
              borderRadius: '50%',
              border: `2px solid ${frame.verdict === 'keep' ? MARKER : 'transparent'}`,
              ...(reject && { border: 0, borderRadius: 0, height: '2px', bgcolor: STRIKE }),
            }}
          />
          <Box component="span" sx={{ flex: 1, textAlign: 'left', color: reject ? STRIKE_TEXT : undefined }}>
            <Unseen>Frame </Unseen>
            {numberOf(frame.name)} {secondsOf(frame)}
            <Unseen>
              , {frame.verdict}
              {hidden && ', hidden by the filter'}
            </Unseen>
          </Box>
          <Stars stars={frame.stars} />
          {frame.label && <LabelTab label={frame.label} />}
        </Box>
      </Box>
    </Box>
  );
});
