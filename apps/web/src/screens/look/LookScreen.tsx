import {
  Box,
  Button,
  Checkbox,
  FormControlLabel,
  LinearProgress,
  Slider,
  TextField,
  Typography,
} from '@mui/material';
import { LABELS, type Label, type Verdict } from '@arkiv/core';
import type { ReactNode } from 'react';
import { previewUrl, NO_FRAME, type LoadedFrame } from '../../data/frames';
import type { Api } from '../../data/http';
import { useSettings, useShoots } from '../../data/live';
import { labelName, labelNames } from '../../data/labels';
import { JobCard } from '../../parts/JobCard';
import { JobSign } from '../../parts/JobSign';
import { LabelTab } from '../../parts/Marks';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { SheetCell } from '../../parts/SheetCell';
import type { SplitFrame } from '../../parts/SplitBar';
import { stripTicks } from '../../parts/stripView';
import { TimeStrip } from '../../parts/TimeStrip';
import {
  CAPTION,
  GROUND,
  INK,
  LABEL_COLOURS,
  MARKER,
  NOTE,
  STRIKE,
  STRIKE_TEXT,
  SURROUNDS,
} from '../../theme/theme';
import { CaptionLine } from '../cull/CaptionLine';
import { Decided } from '../desk/ShootRow';
import { contrast } from './contrast';

const CELL = { width: 186, height: 124 };
const SURROUND_NAMES = ['black', 'dark', '18 % grey', 'white'];

/** Every part of the look on one page, in each of its states. Shown in the demo only. */
export function LookScreen() {
  const { data: shoots } = useShoots();
  const { data: settings } = useSettings();
  const leads = shoots?.find((shoot) => shoot.leads.length > 0)?.leads ?? [];
  const picture = (i: number) => (leads.length > 0 ? previewUrl(leads[i % leads.length]!, 'thumb') : null);
  return (
    <Page
      title="The look"
      lead="Each part in each of its states. What it means stands beside it; colour alone never says anything."
    >
      <Section title="Marks on the contact sheet">
        <Row>
          <Cell name="undecided" src={picture(0)} />
          <Cell name="keep: ringed in the margin" src={picture(1)} verdict="keep" stars={4} />
          <Cell name="reject: struck, dimmed" src={picture(2)} verdict="reject" />
          <Cell name="selected: a white line" src={picture(3)} selected />
          <Cell name="current: a double white line" src={picture(4)} current />
          <Cell name="label, keep, current" src={picture(5)} verdict="keep" label="M" stars={5} current />
        </Row>
        <Row>
          <Cell name="a take: first …" src={picture(0)} take="first" />
          <Cell name="… middle, rejected …" src={picture(0)} take="middle" verdict="reject" />
          <Cell name="… last, kept" src={picture(0)} take="last" verdict="keep" />
          <Cell name="archived before: dimmed" src={picture(1)} dimmed />
          <Cell name="no picture yet" src={null} />
          <Cell name="a clip" src={null} noPicture="clip" />
        </Row>
      </Section>
      <Section title="Label tabs">
        <Row columnGap="24px">
          {LABELS.map((label) => (
            <Box key={label} sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
              <LabelTab label={label} /> {settings && labelName(settings, label)}
              <Box sx={{ ...CAPTION, color: INK.faint }}>{LABEL_COLOURS[label]}</Box>
            </Box>
          ))}
        </Row>
      </Section>
      <Section title="Caption line, time strip">
        <Box sx={{ display: 'grid', gap: 1 }}>
          {STATES.map((state) => (
            <CaptionLine
              key={state.position}
              labels={labelNames(settings)}
              piles=""
              takePosition="take 2 of 13"
              cell={null}
              onCell={() => undefined}
              onCamera={() => undefined}
              {...state}
            />
          ))}
          <TimeStrip
            frames={STRIP}
            ticks={stripTicks(STRIP)}
            current={20}
            hides={(i) => STRIP[i]!.hidden}
            onGo={() => undefined}
          />
        </Box>
        <Box sx={{ ...CAPTION, color: INK.soft, mt: 1 }}>
          A tick for each frame: yellow keep, short red reject, grey undecided, faint hidden by the filter;
          pauses are drawn in, and each scene bears its time.
        </Box>
      </Section>
      <Section title="Surround: where pictures are judged, four neutral greys at a key">
        <Row>
          {SURROUNDS.map((colour, i) => (
            <Swatch key={colour} colour={colour} words={`${SURROUND_NAMES[i]} ${colour}`} />
          ))}
        </Row>
      </Section>
      <Section title="Colours, with their contrast on the ground">
        <Row>
          {[
            [MARKER, 'china marker: keep, the one next step'],
            [STRIKE, 'strike: reject (lines only)'],
            [STRIKE_TEXT, 'trouble, in words'],
            [NOTE, 'information'],
            [INK.full, 'text'],
            [INK.soft, 'lesser text'],
            [INK.faint, 'least text'],
          ].map(([colour, words]) => (
            <Swatch
              key={colour}
              colour={colour!}
              words={`${words} ${colour} ${contrast(colour!, GROUND.base).toFixed(1)} : 1`}
            />
          ))}
        </Row>
      </Section>
      <Section title="Type: Archivo, its narrow width for captions; all figures of one width">
        <Typography variant="h1">Press night, Mill Stage 0123456789</Typography>
        <Typography variant="h2" sx={{ mt: 1 }}>
          Shoots by next step 0123456789
        </Typography>
        <Typography sx={{ mt: 1 }}>41 keepers, 82 files, 1.9 GB will be copied. Nothing is moved.</Typography>
        <Box sx={{ ...CAPTION, mt: 1 }}>0118 · 09:14:07.32 · 1/1600 · f/4 · ISO 400 · 11111 00000 99999</Box>
      </Section>
      <Section title="Buttons and fields: plain, pointed at, pressed, in focus, not possible">
        <Row columnGap="16px">
          <Button variant="contained">Take in 57 frames</Button>
          <Button variant="outlined" color="inherit">
            Cull 53 left
          </Button>
          <Button color="inherit">Pause</Button>
          <Button variant="contained" disabled>
            Take in
          </Button>
          <Button
            variant="outlined"
            color="inherit"
            className="Mui-focusVisible"
            sx={{ outline: `2px solid ${INK.full}`, outlineOffset: 2 }}
          >
            in focus
          </Button>
          <FormControlLabel control={<Checkbox defaultChecked color="default" />} label="Backup drive" />
          <TextField label="Shoot" defaultValue="Press night" sx={{ width: 180 }} />
          <TextField label="Shoot" error helperText="A shoot needs a title." sx={{ width: 180 }} />
          <Box sx={{ width: 110 }}>
            <Slider
              aria-label="Thumbnail size, as a sample"
              size="small"
              defaultValue={40}
              sx={{ color: INK.soft }}
            />
          </Box>
        </Row>
      </Section>
      <Section title="Jobs">
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 5 }}>
          <Box>
            <JobCard job={JOB} />
            <JobCard
              job={{
                ...JOB,
                state: 'waiting',
                reason:
                  'The card went away while OCK_9970.JPG was read. Insert it again: copying carries on where it stopped.',
              }}
            />
          </Box>
          <Box>
            <JobCard
              job={{ ...JOB, state: 'done', filesDone: 70, filesFailed: 2, finishedAt: 1792180000000 }}
            />
            <Box sx={{ mt: 2 }}>
              <JobSign job={JOB} more={1} />
            </Box>
            <Box sx={{ mt: 2 }}>
              <Decided shoot={{ frames: 91, keepers: 20, rejects: 18 }} />
            </Box>
          </Box>
        </Box>
      </Section>
      <Section title="Loading, empty, trouble">
        <LinearProgress color="inherit" aria-label="Loading, as a sample" sx={{ maxWidth: 300, mb: 2 }} />
        <Typography sx={{ color: 'text.secondary', mb: 2 }}>
          All 132 frames are hidden by: keep, at least 4★. Show all.
        </Typography>
        <Problem
          error={
            new Error(
              'OCK_9970.JPG cannot be read at byte 1,048,576 of 3,201,998. Try another reader; the other files go on.',
            )
          }
        />
      </Section>
    </Page>
  );
}

function Row({ children, columnGap = '6px' }: { children: ReactNode; columnGap?: string }) {
  return (
    <Box
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        alignItems: 'center',
        mb: 1,
        rowGap: 1.5,
        columnGap,
      }}
    >
      {children}
    </Box>
  );
}

function Cell({
  name,
  src,
  verdict = 'undecided',
  stars = 0,
  label = null,
  ...more
}: {
  name: string;
  src: string | null;
  verdict?: Verdict;
  stars?: number;
  label?: Label | null;
  selected?: boolean;
  current?: boolean;
  dimmed?: boolean;
  take?: 'first' | 'middle' | 'last';
  noPicture?: string;
}) {
  return (
    <Box role="listbox" aria-label={name} sx={{ width: CELL.width }}>
      <SheetCell
        index={0}
        src={src}
        name={name}
        caption={name}
        verdict={verdict}
        stars={stars}
        label={label}
        selected={false}
        current={false}
        onPick={() => undefined}
        {...CELL}
        {...more}
      />
    </Box>
  );
}

function Swatch({ colour, words }: { colour: string; words: string }) {
  return (
    <Box sx={{ width: 152, alignSelf: 'flex-start' }}>
      <Box sx={{ height: 44, bgcolor: colour, border: `1px solid ${GROUND.line}` }} />
      <Box sx={{ ...CAPTION, color: INK.soft, fontSize: 12 }}>{words}</Box>
    </Box>
  );
}

const FRAME: LoadedFrame = {
  ...NO_FRAME,
  id: 'sample',
  name: 'press-night_20261016_0042',
  original: 'OCK_0009',
  verdict: 'keep',
  stars: 4,
  label: 'M',
  instant: 0,
  local: '2026-10-16T19:45:04',
  millis: 632,
  body: 'Ockham Five',
  serial: 'OK5-004217',
  lens: 'Ockham 35-90mm f/2.8',
  aperture: 4,
  apertureText: 'f/4',
  exposure: 1 / 160,
  exposureText: '1/160',
  iso: 1600,
  focalLength: 43,
  format: 'dng+jpeg',
  raw: 'pair',
  width: 3000,
  height: 2000,
};

const FULL = { words: 'full detail at this size', full: true };
const STATES = [
  { frame: FRAME, position: '5 of 57', facts: 'short', detail: FULL, selected: 0, stepOn: false, notice: '' },
  {
    frame: { ...FRAME, verdict: 'reject', stars: 0, label: null },
    position: '6 of 57',
    facts: 'full',
    detail: { words: '1620 of 2560 px, loading full detail', full: false },
    selected: 0,
    stepOn: true,
    notice: '',
  },
  {
    frame: { ...FRAME, verdict: 'undecided', stars: 0, label: null },
    position: '7 of 57',
    facts: 'none',
    detail: null,
    selected: 12,
    stepOn: false,
    notice: '12 frames changed',
  },
] as const;

const STRIP: SplitFrame[] = Array.from({ length: 60 }, (_, i) => {
  const seconds = i * 0.2 + Math.floor(i / 9) * 140;
  return {
    id: String(i),
    instant: seconds * 1000,
    clock: new Date(seconds * 1000 + 70_000_000).toISOString().slice(11, 16),
    verdict: i % 7 === 0 ? 'keep' : i % 5 === 1 ? 'reject' : 'undecided',
    hidden: i > 48,
  };
});

const JOB: Api['JobDto'] = {
  id: 'sample',
  kind: 'intake',
  title: 'Press night',
  shootId: null,
  readerId: null,
  card: null,
  trouble: null,
  seen: false,
  state: 'running',
  reason: null,
  filesDone: 31,
  filesFailed: 0,
  filesTotal: 72,
  bytesDone: 92_000_000,
  bytesTotal: 210_000_000,
  createdAt: 1792180000000,
  startedAt: 1792180000000,
  finishedAt: null,
  behind: null,
  deed: null,
  fromShootId: null,
};
