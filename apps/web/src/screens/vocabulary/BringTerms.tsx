import { Box, Button, DialogActions, DialogContent, TextField, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { many } from '../../data/format';
import { post } from '../../data/http';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { useSettled } from '../../parts/useSettled';
import { WideDialog } from '../../parts/WideDialog';
import { GROUND, INK } from '../../theme/theme';

const FORMATS = { indented: 'Indented text', turtle: 'SKOS, Turtle', rdfxml: 'SKOS, RDF/XML' } as const;
type Format = keyof typeof FORMATS;
/** Milliseconds after the last letter before it is asked what would come. */
const QUIET = 400;

/** What a list is written in, by what it begins with. */
export const formatOf = (text: string): Format =>
  /^\s*(<\?xml|<rdf:RDF|<!--)/.test(text)
    ? 'rdfxml'
    : /^\s*(@prefix|@base|PREFIX|BASE)\b/i.test(text)
      ? 'turtle'
      : 'indented';

/** A list of terms out of a file or typed: shown what would come before it does. */
export function BringTerms({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('');
  const [format, setFormat] = useState<Format>('indented');
  const settled = useSettled(text, QUIET);
  const [would, setWould] = useState<{ words: string; can: boolean }>({ words: '', can: false });
  useEffect(() => {
    if (settled.trim() === '') return setWould({ words: '', can: false });
    let over = false;
    post('/vocabulary/terms', { text: settled, format, bring: false }).then(
      ({ added, changed }) => {
        const words =
          added + changed === 0
            ? 'All of it is in the vocabulary already.'
            : `${many(added, 'new term')}${changed > 0 ? `; ${many(changed, 'term')} there already learn something` : ''}. Nothing is taken away.`;
        if (!over) setWould({ words, can: added + changed > 0 });
      },
      (error: unknown) => over || setWould({ words: (error as Error).message, can: false }),
    );
    return () => {
      over = true;
    };
  }, [settled, format]);
  const { run, busy, error } = useAction(async () => {
    await post('/vocabulary/terms', { text, format, bring: true });
    onClose();
  });
  const take = (next: string) => {
    setText(next);
    setFormat(formatOf(next));
  };
  return (
    <WideDialog title="Bring terms in" width={760} onClose={onClose}>
      <DialogContent sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr) auto', gap: 1.5 }}>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2, pt: 1 }}>
          <Button component="label" variant="outlined" color="inherit">
            Choose a file …
            <input
              type="file"
              hidden
              aria-label="A file of terms"
              accept=".txt,.ttl,.rdf,.xml,.skos"
              onChange={(event) => void event.target.files?.[0]?.text().then(take)}
            />
          </Button>
          <TextField
            select
            label="Written as"
            value={format}
            onChange={(event) => setFormat(event.target.value as Format)}
            slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
            sx={{ width: 180 }}
          >
            {(Object.keys(FORMATS) as Format[]).map((one) => (
              <option key={one} value={one}>
                {FORMATS[one]}
              </option>
            ))}
          </TextField>
          <Box sx={{ color: INK.soft, flex: 1, minWidth: 220 }}>
            A line a term, a tab a level; synonyms in {'{braces}'} below; [in brackets] what is not delivered;
            its kind behind it, as {'“  #place”'}.
          </Box>
        </Box>
        <TextField
          multiline
          fullWidth
          label="Terms"
          value={text}
          onChange={(event) => take(event.target.value)}
          placeholder={'Animals\n\tBirds\n\t\theron\n\t\t\t{Ardea}'}
          onKeyDown={(event) => {
            // In such a list a tab is a level, and no way out of the field; Escape is.
            if (event.key !== 'Tab' || format !== 'indented' || event.shiftKey) return;
            event.preventDefault();
            document.execCommand('insertText', false, '\t');
          }}
          slotProps={{
            inputLabel: { shrink: true },
            input: { sx: { height: '100%', alignItems: 'start', overflow: 'auto' } },
            htmlInput: { spellCheck: false, 'aria-label': 'Terms', style: { tabSize: 4 } },
          }}
        />
        <Box>
          <Typography role="status" sx={{ minHeight: 22 }}>
            {would.words}
          </Typography>
          <Problem error={error} />
        </Box>
      </DialogContent>
      <DialogActions sx={{ borderTop: `1px solid ${GROUND.line}` }}>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button variant="contained" disabled={!would.can || busy || settled !== text} onClick={() => run()}>
          Bring them in
        </Button>
      </DialogActions>
    </WideDialog>
  );
}
