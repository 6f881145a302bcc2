import { Box, Button, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useParams } from 'react-router';
import { count, many } from '../../data/format';
import { useShoot } from '../../data/live';
import { useScreenKeys } from '../../keys/useScreenKeys';
import type { SheetLayout } from '../../parts/ContactSheet';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { useScreenTitle } from '../../parts/screenTitle';
import { GROUND, INK } from '../../theme/theme';
import { ApplyTemplate } from './ApplyTemplate';
import { DescribeSheet, DescribeSingle } from './DescribeSheet';
import { DescribeTable } from './DescribeTable';
import { FieldsPanel } from './FieldsPanel';
import { ReplaceDialog } from './ReplaceDialog';
import { LACKS, PARTS, useDescribe, VIEWS, type Lack, type View } from './useDescribe';

/** What is said of a shoot's frames: keywords, captions, places, rights. */
export function DescribeScreen() {
  const { id } = useParams();
  return <DescribeShoot key={id} shootId={id!} />;
}

function DescribeShoot({ shootId }: { shootId: string }) {
  const describe = useDescribe(shootId);
  const { data: about, error } = useShoot(shootId);
  const { shoot, shown, view, setView, part, setPart, lack, setLack, counts, targets, notice, write } =
    describe;
  const [dialog, setDialog] = useState<'template' | 'replace' | null>(null);
  const panel = useRef<HTMLDivElement>(null);
  const layout = useRef<SheetLayout>({ across: 1, rows: 1 });
  const onLayout = useCallback((next: SheetLayout) => {
    layout.current = next;
  }, []);
  useScreenTitle(about ? `Describe · ${shownName(about.title)}` : 'Describe');
  const toField = useField(panel);
  const open = useCallback(() => setView('single'), [setView]);
  useScreenKeys((names) => {
    const across = view === 'sheet' ? layout.current.across : 1;
    const page = across * layout.current.rows;
    const steps: Record<string, number> = {
      ...{ arrowright: 1, arrowleft: -1, arrowdown: across, arrowup: -across },
      ...{ pagedown: page, pageup: -page, home: -shown.length, end: shown.length },
    };
    const deeds: Record<string, () => void> = {
      'ctrl+z': describe.undo,
      'ctrl+shift+z': describe.redo,
      q: () => setView('sheet'),
      w: () => setView('single'),
      t: () => setView('table'),
      enter: () => toField('caption'),
      k: () => toField('keywords'),
      p: () => toField('persons'),
      n: () => toField('note'),
      r: () => toField('roster'),
      m: () => setDialog('template'),
      f: () => setDialog('replace'),
      g: describe.chooseTake,
      'ctrl+a': describe.chooseAll,
      escape: describe.chooseOne,
    };
    for (const name of names) {
      const extend = name.startsWith('shift+');
      const by = steps[extend ? name.slice('shift+'.length) : name];
      // The table has its own way with arrows.
      if (by !== undefined && view !== 'table') describe.step(by, extend);
      else if (deeds[name] && (view !== 'table' || !['enter'].includes(name))) deeds[name]();
      else continue;
      return true;
    }
    return false;
  });
  if (!shoot.loaded)
    return (
      <Page title="Describe">
        <Problem error={shoot.failure ?? error} />
        {!shoot.failure && <Loading what="the shoot" />}
      </Page>
    );
  const written = (changes: Parameters<typeof write>[0], words: string) => {
    write(changes, words);
    setDialog(null);
  };
  return (
    <Box
      component="main"
      sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr) auto', minHeight: 0, minWidth: 0 }}
    >
      <Box
        sx={{
          ...{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 1.5, rowGap: 1 },
          ...{ px: 2, py: 1, borderBottom: `1px solid ${GROUND.line}` },
        }}
      >
        <Typography variant="h1" sx={{ fontSize: 19 }}>
          Describe
        </Typography>
        <Choice label="How they are shown" names={VIEWS} value={view} onChange={setView} />
        <Choice
          label="Which frames are shown"
          names={PARTS}
          value={part}
          counts={counts}
          onChange={setPart}
        />
        <Choice label="What they lack" names={LACKS} value={lack} counts={counts} onChange={setLack} />
        <Box sx={{ flex: 1 }} />
        <Button
          color="inherit"
          size="small"
          sx={{ px: 1 }}
          disabled={targets.length === 0}
          onClick={() => setDialog('template')}
        >
          Template …
        </Button>
        <Button
          color="inherit"
          size="small"
          sx={{ px: 1 }}
          disabled={targets.length === 0}
          onClick={() => setDialog('replace')}
        >
          Find and replace …
        </Button>
      </Box>
      {shown.length === 0 ? (
        <Empty
          lack={lack}
          frames={shoot.frames.length}
          onAll={() => (lack === 'nothing' ? setPart('all') : setLack('nothing'))}
        />
      ) : view === 'table' ? (
        <DescribeTable describe={describe} />
      ) : (
        <Box
          sx={{
            ...{ display: 'grid', minHeight: 0, gridTemplateColumns: 'minmax(0, 1fr) minmax(320px, 36%)' },
            // Where there is little room the whole of it scrolls, and a row of pictures stays over the fields.
            [NARROW]: { gridTemplateColumns: '1fr', gridTemplateRows: '180px auto', overflow: 'auto' },
          }}
        >
          <Box sx={{ minHeight: 0, pl: 2, pt: 1 }}>
            {view === 'sheet' ? (
              <DescribeSheet describe={describe} onLayout={onLayout} onOpen={open} />
            ) : (
              <DescribeSingle describe={describe} />
            )}
          </Box>
          <Box
            ref={panel}
            component="section"
            aria-label="What is said of them"
            sx={{
              ...{ overflow: 'auto', minHeight: 0, px: 2, py: 1.5, borderLeft: `1px solid ${GROUND.line}` },
              [NARROW]: { overflow: 'visible', borderLeft: 0 },
            }}
          >
            <FieldsPanel
              describe={describe}
              onNext={(by) => {
                const field = document.activeElement?.getAttribute('data-field');
                describe.step(by);
                if (field) toField(field);
              }}
            />
          </Box>
        </Box>
      )}
      <Box
        sx={{
          ...{
            display: 'flex',
            flexWrap: 'wrap',
            columnGap: 2,
            px: 2,
            py: 0.5,
            color: INK.soft,
            fontSize: 12.5,
          },
          borderTop: `1px solid ${GROUND.line}`,
        }}
      >
        <Box role="status" sx={{ color: INK.full, minHeight: 18 }}>
          {notice}
        </Box>
        <Box sx={{ ml: 'auto', [NARROW]: { display: 'none' } }}>{HINTS[view]}</Box>
      </Box>
      {dialog === 'template' && about && describe.settings && (
        <ApplyTemplate
          settings={describe.settings}
          shoot={about}
          frames={targets}
          onWrite={(changes) => written(changes, 'Template written')}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === 'replace' && (
        <ReplaceDialog
          frames={targets}
          onWrite={(changes) => written(changes, 'Replaced')}
          onClose={() => setDialog(null)}
        />
      )}
    </Box>
  );
}

const NARROW = '@media (max-width: 700px)';
const FIELD_HINTS =
  'G whole take · Enter caption · P persons · R number · K keywords · N note · Ctrl Enter writes and goes on · Esc back to the pictures';
const HINTS: Readonly<Record<View, string>> = {
  sheet: FIELD_HINTS,
  single: FIELD_HINTS,
  table: 'Enter edits · Tab goes on · Ctrl D fills down · Ctrl V pastes columns of a spreadsheet',
};

function Empty({ lack, frames, onAll }: { lack: Lack; frames: number; onAll: () => void }) {
  const words = {
    nothing: frames === 0 ? 'The shoot has no frames.' : 'No frame is a keeper yet.',
    caption: 'Every one of these frames has a caption.',
    keywords: 'Every one of these frames has keywords.',
  }[lack];
  return (
    <Box sx={{ p: 3 }}>
      <Typography sx={{ mb: 1.5 }}>{words}</Typography>
      {frames > 0 && (
        <Button variant="contained" onClick={onAll}>
          {lack === 'nothing' ? `Show all ${many(frames, 'frame')}` : 'Show those that have one'}
        </Button>
      )}
    </Box>
  );
}

/** One of a few ways, each with how many frames it is about. */
function Choice<K extends string>({
  label,
  names,
  value,
  counts,
  onChange,
}: {
  label: string;
  names: Readonly<Record<K, string>>;
  value: K;
  counts?: Readonly<Record<K, number>>;
  onChange: (next: K) => void;
}) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      aria-label={label}
      value={value}
      // A press on what is chosen already shows anew what belongs there by now.
      onChange={(_, next: K | null) => onChange(next ?? value)}
    >
      {(Object.keys(names) as K[]).map((one) => (
        <ToggleButton key={one} value={one} sx={{ px: 1.25, py: 0.25 }}>
          {names[one]}
          {counts && (
            <Box component="span" sx={{ color: INK.full, fontWeight: 400, ml: 0.75 }}>
              {count(counts[one])}
            </Box>
          )}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}

/** Takes the hand into a field of the panel, as soon as the fields of the frames that are meant are there. */
function useField(panel: React.RefObject<HTMLDivElement | null>): (name: string) => void {
  const [wanted, setWanted] = useState<{ name: string } | null>(null);
  useEffect(() => {
    if (!wanted) return;
    const field = panel.current?.querySelector<HTMLInputElement>(`[data-field="${wanted.name}"]`);
    field?.focus();
    field?.select();
  }, [wanted, panel]);
  return useCallback((name: string) => setWanted({ name }), []);
}
