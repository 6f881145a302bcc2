import { Box, Typography } from '@mui/material';
import { DESCRIPTION_FIELDS, markOf, textOfKind, wordOfKind, type FrameChange } from '@arkiv/core';
import { useMemo } from 'react';
import { count, many } from '../../data/format';
import { numberOf, thumbUrl, type LoadedFrame } from '../../data/frames';
import { CAPTION, GROUND, INK } from '../../theme/theme';

/** Changes that are shown one by one; the rest are counted. */
const SHOWN = 200;

/** What a change is about, and what it is before and after, in words. */
function wordsOf(change: FrameChange, frame: LoadedFrame): { about: string; before: string; after: string } {
  const { field, to } = change;
  const word = wordOfKind(field);
  if (word) {
    const about = word.set === 'keywords' ? 'Keyword' : 'Person';
    return { about, before: to ? '' : word.word, after: to ? word.word : '' };
  }
  const text = field === 'caption' ? field : textOfKind(field);
  const before = markOf(frame, field);
  return {
    about: text === null ? field : DESCRIPTION_FIELDS[text],
    before: typeof before === 'string' ? before : '',
    after: typeof to === 'string' ? to : '',
  };
}

/** What would be written, each frame before and after: nothing is written before it is said to be. */
export function Changes({
  changes,
  frames,
  none,
}: {
  changes: readonly FrameChange[];
  frames: readonly LoadedFrame[];
  /** said where nothing changes */
  none: string;
}) {
  const byId = useMemo(() => new Map(frames.map((frame) => [frame.id, frame])), [frames]);
  if (changes.length === 0) return <Typography sx={{ color: 'text.secondary', py: 1 }}>{none}</Typography>;
  return (
    <Box
      role="region"
      aria-label="What would be written"
      tabIndex={0}
      sx={{ overflow: 'auto', minHeight: 0, borderTop: `1px solid ${GROUND.line}` }}
    >
      <Box component="table" sx={{ width: '100%', borderCollapse: 'collapse', tableLayout: 'fixed' }}>
        <Box component="thead" sx={{ ...CAPTION, color: INK.soft, textAlign: 'left' }}>
          <tr>
            <Box component="th" sx={{ width: 130, py: 0.75, fontWeight: 400 }}>
              Frame
            </Box>
            <Box component="th" sx={{ width: 130, fontWeight: 400 }}>
              Field
            </Box>
            <Box component="th" sx={{ fontWeight: 400 }}>
              Now
            </Box>
            <Box component="th" sx={{ fontWeight: 400 }}>
              Then
            </Box>
          </tr>
        </Box>
        <tbody>
          {changes.slice(0, SHOWN).map((change) => {
            const frame = byId.get(change.id)!;
            const { about, before, after } = wordsOf(change, frame);
            return (
              <Box
                component="tr"
                key={`${change.id} ${change.field}`}
                sx={{ verticalAlign: 'top', borderTop: `1px solid ${GROUND.line}`, overflowWrap: 'anywhere' }}
              >
                <Box component="td" sx={{ ...CAPTION, py: 0.6, pr: 1 }} title={frame.name}>
                  <Thumb frame={frame} /> {numberOf(frame.name)}
                </Box>
                <Box component="td" sx={{ color: INK.soft, pr: 1 }}>
                  {about}
                </Box>
                <Box component="td" sx={{ color: INK.soft, pr: 1, whiteSpace: 'pre-line' }}>
                  {before || '–'}
                </Box>
                <Box component="td" sx={{ whiteSpace: 'pre-line' }}>
                  {after || 'taken off'}
                </Box>
              </Box>
            );
          })}
        </tbody>
      </Box>
      {changes.length > SHOWN && (
        <Typography sx={{ color: 'text.secondary', py: 1 }}>
          and {many(changes.length - SHOWN, 'change')} more
        </Typography>
      )}
    </Box>
  );
}

function Thumb({ frame }: { frame: LoadedFrame }) {
  const src = thumbUrl(frame);
  return (
    src && (
      <Box
        component="img"
        src={src}
        alt=""
        loading="lazy"
        sx={{ width: 54, height: 36, objectFit: 'contain', verticalAlign: 'top', mr: 0.5 }}
      />
    )
  );
}

/** How many frames some changes are about. */
export const framesIn = (changes: readonly FrameChange[]): number =>
  new Set(changes.map(({ id }) => id)).size;

/** What a button that writes them says. */
export const writeWords = (changes: readonly FrameChange[]): string =>
  `Write ${many(changes.length, 'change')} into ${count(framesIn(changes))} ${framesIn(changes) === 1 ? 'frame' : 'frames'}`;
