import { Box, Typography } from '@mui/material';
import { bodyKey } from '@arkiv/core';
import { useMemo, useState } from 'react';
import { bytes, many, mediumDay } from '../../data/format';
import type { Api } from '../../data/http';
import { ContactSheet } from '../../parts/ContactSheet';
import { SheetCell } from '../../parts/SheetCell';
import { CAPTION, INK } from '../../theme/theme';

interface Props {
  readerId: string;
  card: Api['CardDto'];
  highlighted: string | null;
}

/** What lies on a card, by day and hour, from the small pictures that the camera put into its files. */
export function CardSheet({ readerId, card, highlighted }: Props) {
  const [picked, setPicked] = useState(0);
  const frames = useMemo(
    () => [...card.frames].sort((a, b) => orderKey(a).localeCompare(orderKey(b))),
    [card],
  );
  const entries = useMemo(() => frames.map((f) => ({ key: f.key, heading: headingOf(f) })), [frames]);
  const shown = highlighted
    ? Math.max(
        0,
        frames.findIndex((f) => f.files.some((x) => x.path === highlighted)),
      )
    : picked;
  return (
    <Box sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr)', minHeight: 0, pl: 3 }}>
      <Box sx={{ py: 2 }}>
        <Typography variant="h1">{card.card}</Typography>
        <Typography sx={{ color: 'text.secondary' }}>{summary(card)}</Typography>
      </Box>
      {frames.length === 0 ? (
        <Typography sx={{ color: 'text.secondary' }}>
          There are no pictures on this card
          {card.extras.length > 0 &&
            `, only ${many(card.extras.length, 'other file')}; they can be copied all the same`}
          .
        </Typography>
      ) : (
        <ContactSheet
          label="Frames on the card"
          entries={entries}
          cell={150}
          current={shown}
          render={(i, width, height) => {
            const frame = frames[i]!;
            const { facts } = frame;
            const picture = pictureOf(frame);
            return (
              <SheetCell
                src={
                  picture &&
                  `/api/readers/${readerId}/picture?size=thumb&card=${card.fingerprint}&path=${encodeURIComponent(picture)}`
                }
                name={`${frame.base}, ${frame.files.map((f) => f.role).join(' and ')}`}
                caption={`${frame.base} · ${formats(frame)}`}
                verdict="undecided"
                stars={0}
                label={null}
                selected={false}
                current={i === shown}
                orientation={facts.orientation}
                width={width}
                height={height}
                onPick={() => setPicked(i)}
                onOpen={() => undefined}
              />
            );
          }}
        />
      )}
      {card.notFollowed.length > 0 && (
        <Box sx={{ ...CAPTION, color: INK.soft, py: 1 }}>
          Not copied, since they are links or no plain files: {card.notFollowed.join(', ')}
        </Box>
      )}
    </Box>
  );
}

const pictureOf = (frame: Api['CardFrameDto']): string | null =>
  (frame.files.find((f) => f.role === 'jpeg') ?? frame.files.find((f) => f.role === 'raw'))?.path ?? null;

const orderKey = (frame: Api['CardFrameDto']): string =>
  frame.facts.capture
    ? `${frame.facts.capture.local}.${String(frame.facts.capture.millis).padStart(3, '0')} ${frame.key}`
    : `9999 ${frame.key}`;

function headingOf({ facts: { capture } }: Api['CardFrameDto']): string {
  return capture
    ? `${mediumDay(capture.local.slice(0, 10))}, ${capture.local.slice(11, 13)}:00`
    : 'No capture time';
}

function formats(frame: Api['CardFrameDto']): string {
  return frame.files.map((f) => f.path.slice(f.path.lastIndexOf('.') + 1).toUpperCase()).join(' + ');
}

function summary(card: Api['CardDto']): string {
  const files = card.frames.reduce((sum, f) => sum + f.files.length, 0) + card.extras.length;
  const days = new Set(card.frames.flatMap((f) => f.facts.capture?.local.slice(0, 10) ?? []));
  const bodies = new Set(card.frames.map((f) => bodyKey(f.facts)).filter(Boolean));
  return [
    many(card.frames.length, 'frame'),
    many(files, 'file'),
    bytes(card.bytes),
    many(days.size, 'day'),
    [...bodies].join(' and '),
  ]
    .filter(Boolean)
    .join(' · ');
}
