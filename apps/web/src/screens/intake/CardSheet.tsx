import { Box, Button, Typography } from '@mui/material';
import {
  bodyKey,
  correctedLocal,
  formatWords,
  frameKind,
  pictureOf,
  shownName,
  type SplitPart,
  type SplitRule,
} from '@arkiv/core';
import { useCallback, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { bytes, many, mediumDay } from '../../data/format';
import { lengthOf, placeholderOf } from '../../data/frames';
import type { Api } from '../../data/http';
import { ContactSheet } from '../../parts/ContactSheet';
import { SheetCell } from '../../parts/SheetCell';
import { SplitBar } from '../../parts/SplitBar';
import { CAPTION, INK, NOTE } from '../../theme/theme';

interface Props {
  readerId: string;
  card: Api['CardDto'];
  highlighted: string | null;
  /** the card's frames in order of corrected time */
  ordered: readonly Api['CardFrameDto'][];
  /** keys of frames that stay on the card */
  leftOut: ReadonlySet<string>;
  /** keys of frames that are probably archived */
  known: readonly string[];
  rule: SplitRule;
  parts: readonly SplitPart[];
  /** only names are known so far */
  reading?: boolean;
  onRule: (rule: SplitRule) => void;
  onLeftOut: (keys: ReadonlySet<string>) => void;
}

/** What lies on a card, by day and hour, from the small pictures that the camera put into its files. */
export function CardSheet(props: Props) {
  const {
    readerId,
    card,
    highlighted,
    ordered,
    leftOut,
    known,
    rule,
    parts,
    reading = false,
    onRule,
    onLeftOut,
  } = props;
  const [picked, setPicked] = useState(0);
  const across = useRef(1);
  const onAcross = useCallback((n: number) => {
    across.current = n;
  }, []);
  const archived = useMemo(() => new Set(known), [known]);
  const partOf = useMemo(
    () =>
      new Map(
        parts.length > 1 ? parts.flatMap((part, i) => part.keys.map((key) => [key, i + 1] as const)) : [],
      ),
    [parts],
  );
  const [byBody, setByBody] = useState(false);
  const bodies = useMemo(() => [...new Set(card.frames.map((f) => bodyKey(f.facts)))].sort(), [card]);
  const frames = useMemo(
    () => (byBody ? bodies.flatMap((body) => ordered.filter((f) => bodyKey(f.facts) === body)) : ordered),
    [byBody, bodies, ordered],
  );
  const entries = useMemo(
    () =>
      frames.map((f) => {
        if (reading) return { key: f.key, heading: 'In the order of their names' };
        const heading = byBody ? `${bodyKey(f.facts) || 'no body named'} · ${headingOf(f)}` : headingOf(f);
        const part = partOf.get(f.key);
        return { key: f.key, heading: part === undefined ? heading : `Shoot ${part} · ${heading}` };
      }),
    [frames, partOf, byBody, reading],
  );
  const strip = useMemo(
    () =>
      ordered.map((f) => ({
        id: f.key,
        instant: f.facts.capture ? Date.parse(`${correctedLocal(f.facts.capture)}Z`) : null,
        clock: f.facts.capture ? correctedLocal(f.facts.capture).slice(11, 16) : '',
        verdict: 'undecided' as const,
        hidden: leftOut.has(f.key),
      })),
    [ordered, leftOut],
  );
  /** Takes frames in or leaves them out: one, or with Shift all from the last one that was chosen. */
  const toggle = (i: number, range: boolean) => {
    const [low, high] = range ? [Math.min(picked, i), Math.max(picked, i)] : [i, i];
    const out = range ? leftOut.has(frames[picked]!.key) : !leftOut.has(frames[i]!.key);
    const keys = frames.slice(low, high + 1).map((f) => f.key);
    onLeftOut(changed(leftOut, keys, out));
    setPicked(i);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: across.current, ArrowUp: -across.current }[
      event.key
    ];
    if (by !== undefined) setPicked(Math.min(frames.length - 1, Math.max(0, picked + by)));
    else if (event.key === ' ') toggle(picked, event.shiftKey);
    else return;
    event.preventDefault();
  };
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
        <Typography sx={{ color: 'text.secondary' }}>{summary(card, reading)}</Typography>
        {frames.length > 0 && !reading && (
          <Choosing
            frames={ordered}
            leftOut={leftOut}
            known={archived}
            onLeftOut={onLeftOut}
            byBody={bodies.length > 1 ? byBody : null}
            onByBody={setByBody}
          />
        )}
        {frames.length > 1 && !reading && (
          <Box sx={{ mt: 1.5, mr: 2 }}>
            <SplitBar
              frames={strip}
              rule={rule}
              parts={parts}
              current={frames[picked]?.key ?? null}
              onRule={onRule}
              onGo={(key) => setPicked(frames.findIndex((f) => f.key === key))}
            />
          </Box>
        )}
      </Box>
      {frames.length === 0 ? (
        <Typography sx={{ color: 'text.secondary' }}>
          There are no pictures on this card
          {card.extras.length > 0 &&
            `, only ${many(card.extras.length, 'other file')}; they can be copied all the same`}
          .
        </Typography>
      ) : (
        <Box sx={{ minHeight: 0 }} onKeyDown={onKeyDown}>
          <ContactSheet
            label="Frames on the card: chosen are taken in"
            entries={entries}
            cell={150}
            current={shown}
            onAcross={onAcross}
            render={(i, width, height) => {
              const frame = frames[i]!;
              const { facts } = frame;
              const picture = pictureOf(frame.files);
              return (
                <SheetCell
                  src={
                    picture &&
                    `/api/readers/${readerId}/picture?size=thumb&card=${card.fingerprint}&path=${encodeURIComponent(picture.path)}`
                  }
                  name={`${shownName(frame.base)}, ${formats(frame)}`}
                  noPicture={placeholderOf({ ...frameKind(frame.files), seconds: facts.seconds })}
                  caption={`${shownName(frame.base)} · ${
                    leftOut.has(frame.key)
                      ? 'left out'
                      : archived.has(frame.key)
                        ? 'archived?'
                        : formats(frame) + (facts.seconds ? `, ${lengthOf(facts.seconds)}` : '')
                  }`}
                  dimmed={leftOut.has(frame.key) || archived.has(frame.key)}
                  verdict="undecided"
                  stars={0}
                  label={null}
                  selected={!leftOut.has(frame.key)}
                  current={i === shown}
                  plain
                  width={width}
                  height={height}
                  onPick={(event) => toggle(i, event.shiftKey)}
                  onOpen={() => undefined}
                />
              );
            }}
          />
        </Box>
      )}
      {card.notFollowed.length > 0 && (
        <Box sx={{ ...CAPTION, color: INK.soft, py: 1 }}>
          Not copied, since they are links or no plain files: {card.notFollowed.map(shownName).join(', ')}
        </Box>
      )}
    </Box>
  );
}

/** The keys that are left out after some were added to or taken from them. */
function changed(leftOut: ReadonlySet<string>, keys: readonly string[], out: boolean): ReadonlySet<string> {
  const next = new Set(leftOut);
  for (const key of keys) {
    if (out) next.add(key);
    else next.delete(key);
  }
  return next;
}

/** Keys of the frames under what is said of them, in the order of first appearance. */
function grouped(
  frames: readonly Api['CardFrameDto'][],
  said: (frame: Api['CardFrameDto']) => string,
): [string, string[]][] {
  const groups = new Map<string, string[]>();
  for (const frame of frames) groups.set(said(frame), [...(groups.get(said(frame)) ?? []), frame.key]);
  return [...groups];
}

/** All, none, whole days, or all of one body. */
function Choosing({
  frames,
  leftOut,
  known,
  onLeftOut,
  byBody,
  onByBody,
}: {
  frames: readonly Api['CardFrameDto'][];
  leftOut: ReadonlySet<string>;
  known: ReadonlySet<string>;
  onLeftOut: Props['onLeftOut'];
  /** whether the sheet goes body by body; null where the card has one only */
  byBody: boolean | null;
  onByBody: (on: boolean) => void;
}) {
  const groups = useMemo(() => {
    const days = grouped(frames, ({ facts: { capture } }) =>
      capture ? mediumDay(correctedLocal(capture).slice(0, 10)) : 'no time',
    );
    const bodies = grouped(frames, ({ facts }) => facts.model ?? 'no body named');
    return [...(days.length > 1 ? days : []), ...(bodies.length > 1 ? bodies : [])];
  }, [frames]);
  const keys = frames.map((f) => f.key);
  return (
    <Box
      role="group"
      aria-label="Choose frames"
      sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1, mt: 1 }}
    >
      <Box sx={{ color: leftOut.size > 0 ? INK.full : INK.faint, mr: 1 }}>
        {leftOut.size === 0
          ? known.size === 0 && 'All are taken in. A click leaves a frame out; with Shift, a range.'
          : `${many(frames.length - leftOut.size, 'frame')} of ${frames.length} taken in, ${leftOut.size} stay on the card`}
      </Box>
      {known.size > 0 && (
        <Box sx={{ color: NOTE, mr: 1 }}>
          {known.size === frames.length ? 'All' : known.size} seem archived: compared by content, copied only
          if new.
        </Box>
      )}
      <Box sx={{ flex: 1 }} />
      {groups.map(([words, list]) => {
        const taken = list.some((key) => !leftOut.has(key));
        return (
          <Button
            key={words}
            size="small"
            color="inherit"
            variant="outlined"
            aria-pressed={taken}
            sx={{ px: 1, py: 0, opacity: taken ? 1 : 0.6 }}
            onClick={() => onLeftOut(changed(leftOut, list, taken))}
          >
            {words} · {list.length}
          </Button>
        );
      })}
      {byBody !== null && (
        <Button
          size="small"
          color="inherit"
          aria-pressed={byBody}
          sx={{ px: 1, py: 0 }}
          onClick={() => onByBody(!byBody)}
        >
          {byBody ? 'In order of time' : 'Body by body'}
        </Button>
      )}
      <Button size="small" color="inherit" sx={{ px: 1, py: 0 }} onClick={() => onLeftOut(new Set())}>
        All
      </Button>
      <Button
        size="small"
        color="inherit"
        sx={{ px: 1, py: 0, mr: 2 }}
        onClick={() => onLeftOut(new Set(keys))}
      >
        None
      </Button>
    </Box>
  );
}

function headingOf({ facts: { capture } }: Api['CardFrameDto']): string {
  if (!capture) return 'No capture time';
  const local = correctedLocal(capture);
  return `${mediumDay(local.slice(0, 10))}, ${local.slice(11, 13)}:00`;
}

function formats(frame: Api['CardFrameDto']): string {
  return frame.files.map((f) => (f.format ? formatWords(f.format) : f.role)).join(' + ');
}

function summary(card: Api['CardDto'], reading: boolean): string {
  const files = card.frames.reduce((sum, f) => sum + f.files.length, 0) + card.extras.length;
  const days = new Set(card.frames.flatMap((f) => f.facts.capture?.local.slice(0, 10) ?? []));
  const bodies = new Set(card.frames.map((f) => bodyKey(f.facts)).filter(Boolean));
  return [
    many(card.frames.length, 'frame'),
    many(files, 'file'),
    bytes(card.bytes),
    !reading && many(days.size, 'day'),
    [...bodies].join(' and '),
  ]
    .filter(Boolean)
    .join(' · ');
}
