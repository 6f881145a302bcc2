import { Box, Button, Typography } from '@mui/material';
import {
  bodyKey,
  bodyNames,
  correctedLocal,
  formatWords,
  frameKind,
  pictureOf,
  shownName,
  type SplitPart,
  type SplitRule,
} from '@arkiv/core';
import { useCallback, useMemo, useState } from 'react';
import { bytes, many, mediumDay } from '../../data/format';
import { lengthOf, placeholderOf } from '../../data/frames';
import type { Api } from '../../data/http';
import { ContactSheet } from '../../parts/ContactSheet';
import { useScreenTitle } from '../../parts/screenTitle';
import { SheetCell } from '../../parts/SheetCell';
import { sheetList } from '../../parts/sheetRows';
import { useSheetWalk } from '../../parts/useSheetWalk';
import { SplitBar, splitBefore } from '../../parts/SplitBar';
import { CAPTION, INK, NOTE } from '../../theme/theme';
import { CardLoupe } from './CardLoupe';
import { ChoiceBox } from './ChoiceBox';

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
  useScreenTitle(`Take in ${shownName(card.card)}`);
  const [large, setLarge] = useState(false);
  const archived = useMemo(() => new Set(known), [known]);
  const partOf = useMemo(
    () =>
      new Map(
        parts.length > 1 ? parts.flatMap((part, i) => part.keys.map((key) => [key, i + 1] as const)) : [],
      ),
    [parts],
  );
  const names = useMemo(() => bodyNames(card.frames.map((f) => bodyKey(f.facts))), [card]);
  const [byBody, setByBody] = useState(false);
  const bodies = useMemo(() => [...new Set(card.frames.map((f) => bodyKey(f.facts)))].sort(), [card]);
  const frames = useMemo(
    () => (byBody ? bodies.flatMap((body) => ordered.filter((f) => bodyKey(f.facts) === body)) : ordered),
    [byBody, bodies, ordered],
  );
  const entries = useMemo(() => {
    const headed = (f: Api['CardFrameDto']): string => {
      if (reading) return 'In the order of their names';
      const heading = byBody
        ? `${names.get(bodyKey(f.facts)) || 'no body named'} · ${headingOf(f)}`
        : headingOf(f);
      const part = partOf.get(f.key);
      return part === undefined ? heading : `Shoot ${part} · ${heading}`;
    };
    return sheetList(frames.map((f) => ({ key: f.key, heading: headed(f) })));
  }, [frames, partOf, byBody, reading, names]);
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
  const walk = useSheetWalk(frames.length, {
    space: (at) => toggle(at, false),
    'shift+space': (at) => toggle(at, true),
    enter: () => setLarge(true),
    'shift+t': (at) => splitAt(at),
  });
  const { at: picked, go: setPicked } = walk;
  const showLarge = useCallback(
    (i: number) => {
      setPicked(i);
      setLarge(true);
    },
    [setPicked],
  );
  const [anchor, setAnchor] = useState(0);
  /** Splits before a frame by hand, or takes that split away. */
  const splitAt = (i: number) => {
    const key = frames[i]!.key;
    if (reading || ordered[0]?.key === key) return;
    onRule(splitBefore(rule, parts, key));
  };
  /** Takes frames in or leaves them out: one, or with Shift all from the last one that was chosen. */
  const toggle = (i: number, range: boolean) => {
    if (reading) return;
    const [low, high] = range ? [Math.min(anchor, i), Math.max(anchor, i)] : [i, i];
    const out = range ? leftOut.has(frames[anchor]!.key) : !leftOut.has(frames[i]!.key);
    const keys = frames.slice(low, high + 1).map((f) => f.key);
    onLeftOut(changed(leftOut, keys, out));
    setAnchor(i);
    setPicked(i);
  };
  const shown = highlighted
    ? Math.max(
        0,
        frames.findIndex((f) => f.files.some((x) => x.path === highlighted)),
      )
    : picked;
  const address = (frame: Api['CardFrameDto'], size: 'thumb' | 'large') => {
    const picture = pictureOf(frame.files);
    return (
      picture &&
      `/api/readers/${readerId}/picture?size=${size}&card=${card.fingerprint}&path=${encodeURIComponent(picture.path)}`
    );
  };
  return (
    <Box sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr)', minHeight: 0, pl: 3 }}>
      <Box sx={{ py: 2 }}>
        <Typography variant="h1">{card.card}</Typography>
        <Typography sx={{ color: 'text.secondary' }}>{summary(card, names, reading)}</Typography>
        {frames.length > 0 && !reading && (
          <Choosing
            frames={ordered}
            leftOut={leftOut}
            known={archived}
            onLeftOut={onLeftOut}
            names={names}
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
        <Box sx={{ minHeight: 0 }}>
          <ContactSheet
            label="Frames on the card: chosen are taken in"
            list={entries}
            cell={150}
            current={shown}
            onLayout={walk.onLayout}
            render={(i, width, height, id) => {
              const frame = frames[i]!;
              const { facts } = frame;
              const out = leftOut.has(frame.key);
              return (
                <SheetCell
                  index={i}
                  id={id}
                  src={address(frame, 'thumb')}
                  name={`${shownName(frame.base)}, ${formats(frame)}`}
                  noPicture={placeholderOf({ ...frameKind(frame.files), seconds: facts.seconds })}
                  caption={`${shownName(frame.base)} · ${
                    out
                      ? 'left out'
                      : archived.has(frame.key)
                        ? 'archived?'
                        : formats(frame) + (facts.seconds ? `, ${lengthOf(facts.seconds)}` : '')
                  }`}
                  dimmed={out || archived.has(frame.key)}
                  aspect={aspectOf(frame)}
                  control={
                    !reading && (
                      <ChoiceBox on={!out} onToggle={(range) => toggle(i, range)} name={frame.base} />
                    )
                  }
                  verdict="undecided"
                  stars={Math.max(0, frame.facts.rating ?? 0)}
                  label={null}
                  selected={!out}
                  current={i === shown}
                  plain
                  width={width}
                  height={height}
                  onPick={showLarge}
                />
              );
            }}
          />
        </Box>
      )}
      {large && frames[picked] && (
        <CardLoupe
          src={address(frames[picked], 'large')}
          name={shownName(frames[picked].base)}
          words={[
            formats(frames[picked]),
            frames[picked].facts.capture
              ? clockWords(correctedLocal(frames[picked].facts.capture))
              : 'no capture time',
            `frame ${picked + 1} of ${frames.length}`,
          ].join(' · ')}
          taken={reading ? null : !leftOut.has(frames[picked].key)}
          onToggle={() => toggle(picked, false)}
          onStep={(by) => setPicked(Math.max(0, Math.min(frames.length - 1, picked + by)))}
          onClose={() => setLarge(false)}
        />
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
  names,
  byBody,
  onByBody,
}: {
  frames: readonly Api['CardFrameDto'][];
  leftOut: ReadonlySet<string>;
  known: ReadonlySet<string>;
  onLeftOut: Props['onLeftOut'];
  /** what the bodies are called, by their keys */
  names: ReadonlyMap<string, string>;
  /** whether the sheet goes body by body; null where the card has one only */
  byBody: boolean | null;
  onByBody: (on: boolean) => void;
}) {
  const groups = useMemo(() => {
    const days = grouped(frames, ({ facts: { capture } }) =>
      capture ? mediumDay(correctedLocal(capture).slice(0, 10)) : 'no time',
    );
    const bodies = grouped(frames, ({ facts }) => names.get(bodyKey(facts)) || 'no body named');
    return [...(days.length > 1 ? days : []), ...(bodies.length > 1 ? bodies : [])];
  }, [frames, names]);
  const keys = frames.map((f) => f.key);
  return (
    <Box
      role="group"
      aria-label="Choose frames"
      sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1, mt: 1 }}
    >
      <Box sx={{ color: leftOut.size > 0 ? INK.full : INK.faint, mr: 1 }}>
        {leftOut.size === 0
          ? known.size === 0 &&
            'All are taken in. Space or the tick leaves a frame out, with Shift a range; a click shows it large.'
          : `${many(frames.length - leftOut.size, 'frame')} of ${frames.length} taken in, ${leftOut.size} stay on the card`}
      </Box>
      {known.size > 0 && (
        <Box sx={{ color: NOTE, mr: 1 }}>
          {known.size === frames.length ? 'All' : known.size} look archived: compared by content, copied only
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

const clockWords = (local: string): string => `${mediumDay(local.slice(0, 10))}, ${local.slice(11, 22)}`;

function aspectOf({ facts: { width, height, orientation } }: Api['CardFrameDto']): number | null {
  if (!width || !height) return null;
  return orientation >= 5 ? height / width : width / height;
}

function headingOf({ facts: { capture } }: Api['CardFrameDto']): string {
  if (!capture) return 'No capture time';
  const local = correctedLocal(capture);
  return `${mediumDay(local.slice(0, 10))}, ${local.slice(11, 13)}:00`;
}

function formats(frame: Api['CardFrameDto']): string {
  return frame.files.map((f) => (f.format ? formatWords(f.format) : f.role)).join(' + ');
}

function summary(card: Api['CardDto'], names: ReadonlyMap<string, string>, reading: boolean): string {
  const files = card.frames.reduce((sum, f) => sum + f.files.length, 0) + card.extras.length;
  const days = new Set(card.frames.flatMap((f) => f.facts.capture?.local.slice(0, 10) ?? []));
  const bodies = new Set([...names.values()].filter(Boolean));
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
