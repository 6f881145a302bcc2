import { Box, Button, TextField, Typography } from '@mui/material';
import { tidy, type TermChange } from '@arkiv/core';
import { useEffect, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { count, many } from '../../data/format';
import { post } from '../../data/http';
import { useGet } from '../../data/useGet';
import { useVocabulary, type KnownTerms } from '../../data/vocabulary';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { useScreenTitle } from '../../parts/screenTitle';
import { useAction } from '../../parts/useAction';
import { GROUND, INK } from '../../theme/theme';
import { BringTerms } from './BringTerms';
import { TermPanel } from './TermPanel';
import { TermTree } from './TermTree';
import { treeRows } from './treeRows';
import { asSent } from './useFollowing';

/** Milliseconds after which the address names the term that was chosen last. */
const FOLLOWS = 300;

/** The studio's keywords as a tree: filtered, put in order, brought in and taken out. */
export function VocabularyScreen() {
  const { known, error } = useVocabulary();
  useScreenTitle('Vocabulary');
  if (!known)
    return (
      <Page title="Vocabulary">
        <Problem error={error} />
        {!error && <Loading what="the vocabulary" />}
      </Page>
    );
  return <Terms known={known} />;
}

function Terms({ known }: { known: KnownTerms }) {
  const { vocabulary } = known;
  const [params, setParams] = useSearchParams();
  const [chosen, choose] = useState(params.get('term'));
  // The address follows the hand: it is too slow to be asked between two keys.
  useEffect(() => {
    if (chosen === null) return;
    const timer = setTimeout(() => setParams({ term: chosen }, { replace: true }), FOLLOWS);
    return () => clearTimeout(timer);
  }, [chosen, setParams]);
  const [typed, setTyped] = useState('');
  const [open, setOpen] = useState<ReadonlySet<string>>(
    () => new Set(chosen === null ? [] : vocabulary.ancestors(chosen).map(({ id }) => id)),
  );
  const [bringing, setBringing] = useState(false);
  const rows = useMemo(() => treeRows(known, open, typed), [known, open, typed]);
  const { data: last } = useGet('/vocabulary/last');
  const {
    run: change,
    busy,
    error,
    again,
  } = useAction(async (asked: TermChange) => {
    await post('/vocabulary/changes', asSent(asked));
    if (asked.do === 'add' && asked.parent !== null) fold(asked.parent, true);
  });
  const { run: undo, busy: undoing, error: undoError } = useAction(() => post('/vocabulary/undo', {}));
  const fold = (id: string, opened: boolean) =>
    setOpen((before) => {
      const next = new Set(before);
      if (opened) next.add(id);
      else next.delete(id);
      return next;
    });
  const term = chosen === null ? null : vocabulary.get(chosen);
  return (
    <Box
      component="main"
      sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr) auto', minHeight: 0, minWidth: 0 }}
    >
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2, px: 3, py: 1.5 }}>
        <Typography variant="h1">Vocabulary</Typography>
        <Typography sx={{ color: 'text.secondary', flex: 1 }}>
          {many(vocabulary.terms.length, 'term')}
        </Typography>
        <Button color="inherit" onClick={() => setBringing(true)}>
          Bring in …
        </Button>
        <Button
          color="inherit"
          href="/api/vocabulary/text?format=indented"
          disabled={vocabulary.terms.length === 0}
        >
          Take out as text
        </Button>
        <Button
          color="inherit"
          href="/api/vocabulary/text?format=turtle"
          disabled={vocabulary.terms.length === 0}
        >
          Take out as SKOS
        </Button>
      </Box>
      <Box
        sx={{
          ...{
            display: 'grid',
            gridTemplateColumns: 'minmax(260px, 1fr) minmax(320px, 1fr)',
            gap: 3,
            px: 3,
            minHeight: 0,
          },
          '@media (max-width: 700px)': { gridTemplateColumns: '1fr', overflow: 'auto' },
        }}
      >
        <Box
          sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr)', gap: 1.25, minHeight: 0, pt: 1 }}
        >
          <TextField
            autoFocus
            label="Filter by typing"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Escape') setTyped('');
              if (event.key === 'Enter' && rows[0]) choose(rows[0].id);
            }}
            slotProps={{ inputLabel: { shrink: true }, htmlInput: { autoComplete: 'off' } }}
          />
          {rows.length > 0 ? (
            <TermTree rows={rows} chosen={chosen} onChoose={choose} onFold={fold} />
          ) : (
            <Typography sx={{ color: 'text.secondary' }}>
              {typed === ''
                ? 'No term yet. Add one at the right, bring a list in, or file the words that frames have already.'
                : `No term and no synonym fits “${typed}”.`}
            </Typography>
          )}
        </Box>
        <Box sx={{ overflow: 'auto', minHeight: 0, pt: 1, pb: 2 }}>
          <Problem error={error} again={again} />
          {term ? (
            <TermPanel key={term.id} known={known} term={term} busy={busy} onChange={change} />
          ) : (
            <Typography sx={{ color: 'text.secondary' }}>
              Choose a term to change it: frames that have it follow.
            </Typography>
          )}
          <AddAtTop
            busy={busy}
            onAdd={(word) => change({ do: 'add', word, parent: null, kind: 'subject' })}
          />
          <Unfiled
            under={term && { id: term.id, word: term.word }}
            busy={busy}
            onFile={(word, parent) => change({ do: 'add', word, parent, kind: 'subject' })}
          />
        </Box>
      </Box>
      <Box
        sx={{
          ...{ display: 'flex', alignItems: 'center', gap: 2, px: 3, minHeight: 38, color: INK.soft },
          borderTop: `1px solid ${GROUND.line}`,
        }}
      >
        <Box role="status" sx={{ flex: 1 }}>
          {last?.last &&
            `Last change: ${last.last.words}${
              last.last.state === 'open'
                ? ', frames are following …'
                : last.last.state === 'undoing'
                  ? ', being taken back …'
                  : last.last.frames > 0
                    ? `, ${many(last.last.frames, 'frame')} followed`
                    : ''
            }`}
        </Box>
        <Problem error={undoError} />
        {last?.last && (
          <Button
            color="inherit"
            size="small"
            disabled={undoing || last.last.state !== 'done'}
            onClick={() => undo()}
          >
            Take it back
          </Button>
        )}
      </Box>
      {bringing && <BringTerms onClose={() => setBringing(false)} />}
    </Box>
  );
}

function AddAtTop({ busy, onAdd }: { busy: boolean; onAdd: (word: string) => void }) {
  const [word, setWord] = useState('');
  return (
    <Box
      component="form"
      sx={{ display: 'flex', gap: 1.25, mt: 3 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (tidy(word) === '' || busy) return;
        onAdd(tidy(word));
        setWord('');
      }}
    >
      <TextField
        label="New term at the top"
        value={word}
        onChange={(event) => setWord(event.target.value)}
        slotProps={{ inputLabel: { shrink: true } }}
      />
      <Button type="submit" color="inherit" variant="outlined" disabled={tidy(word) === '' || busy}>
        Add
      </Button>
    </Box>
  );
}

/** Words that are offered for filing at once; the rest come as these go. */
const SHOWN = 40;

/** Keywords that frames have and the tree does not: a click files one under the term that is chosen. */
function Unfiled({
  under,
  busy,
  onFile,
}: {
  under: { id: string; word: string } | null;
  busy: boolean;
  onFile: (word: string, parent: string | null) => void;
}) {
  const { data: words } = useGet('/vocabulary/unfiled');
  if (!words || words.length === 0) return null;
  return (
    <Box component="section" aria-label="Words that are no term" sx={{ mt: 3 }}>
      <Typography variant="h2">Words that are no term yet</Typography>
      <Typography sx={{ color: 'text.secondary', mb: 1 }}>
        Frames have them. A click files one {under ? `under “${under.word}”` : 'at the top'}; frames stay as
        they are.
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.75 }}>
        {words.slice(0, SHOWN).map(({ word, frames }) => (
          <Button
            key={word}
            size="small"
            color="inherit"
            variant="outlined"
            disabled={busy}
            sx={{ px: 1, py: 0.1, fontWeight: 480 }}
            onClick={() => onFile(word, under?.id ?? null)}
          >
            {word}
            <Box component="span" sx={{ color: INK.soft, ml: 0.75 }}>
              {count(frames)}
            </Box>
          </Button>
        ))}
      </Box>
    </Box>
  );
}
