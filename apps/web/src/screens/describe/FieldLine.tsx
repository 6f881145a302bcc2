import { Box, TextField } from '@mui/material';
import { isLong, together, type WriteWay } from '@arkiv/core';
import { useRef, useState, type KeyboardEvent } from 'react';
import { many } from '../../data/format';
import { INK } from '../../theme/theme';

interface Props {
  /** the field's own, by which keys go to it */
  name: string;
  label: string;
  rows?: number | undefined;
  /** what each of the frames that are meant says */
  texts: readonly (string | null)[];
  /** what the studio says where a frame says nothing */
  usual?: string;
  way: WriteWay;
  onWrite: (typed: string, way: WriteWay) => void;
  /** on to the next frame, or back, the hand in the same field */
  onNext: (by: 1 | -1) => void;
}

/** A text of the frames that are meant: what all say, or in how many it differs; written when the field is left. */
export function FieldLine({ name, label, rows, texts, usual = '', way, onWrite, onNext }: Props) {
  const { text, different } = together(texts);
  const [typed, setTyped] = useState<string | null>(null);
  const several = texts.length > 1;
  // What is added stands by itself until it is written.
  const shown = typed ?? (several && way === 'add' ? '' : (text ?? ''));
  const left = useRef(false);
  const write = () => {
    // Escape takes the focus away as well, and that writes nothing.
    const isLeft = left.current;
    left.current = false;
    if (typed === null) return;
    setTyped(null);
    if (isLeft) return;
    // Where frames differ, an empty field is one that nothing was typed into.
    const nothing = typed.trim() === '' && (different > 0 || (several && way !== 'replace'));
    if (!nothing && typed !== (text ?? '')) onWrite(typed, several ? way : 'replace');
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Escape') {
      // What was typed is left; then the keys are the screen's again.
      left.current = true;
      setTyped(null);
    } else if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      write();
      onNext(event.shiftKey ? -1 : 1);
    } else if (event.key === 'Enter' && rows === undefined) {
      event.preventDefault();
      write();
    }
  };
  const help = helpOf({ typed, texts, text, different, way: several ? way : 'replace' });
  return (
    <Box>
      <TextField
        label={label}
        value={shown}
        multiline={rows !== undefined}
        {...(rows !== undefined && { minRows: rows, maxRows: 10 })}
        placeholder={
          different > 0 ? `different in ${many(different, 'frame')}` : text === null ? usual : undefined
        }
        onChange={(event) => setTyped(event.target.value)}
        onBlur={write}
        onKeyDown={onKeyDown}
        slotProps={{
          inputLabel: { shrink: true },
          htmlInput: { 'data-field': name, spellCheck: true, autoComplete: 'off' },
        }}
      />
      {help !== '' && (
        <Box role="status" sx={{ fontSize: 12.5, color: INK.soft, mt: 0.25 }}>
          {help}
        </Box>
      )}
      {typed !== null && isLong(typed) && (
        <Box role="status" sx={{ fontSize: 12.5, color: INK.soft, mt: 0.25 }}>
          Longer than 2,000 bytes: programs that know only the old form of captions (IIM) show it cut. Nothing
          is cut here.
        </Box>
      )}
      {typed === null && several && (different > 0 || text !== null) && way === 'replace' && (
        <Box
          component="button"
          type="button"
          onClick={() => onWrite('', 'replace')}
          sx={{
            ...{ border: 0, p: 0, mt: 0.25, bgcolor: 'transparent', color: INK.faint, font: 'inherit' },
            ...{
              fontSize: 12.5,
              cursor: 'pointer',
              '&:hover': { color: INK.full, textDecoration: 'underline' },
            },
          }}
        >
          Take it off all {texts.length}
        </Box>
      )}
    </Box>
  );
}

/** What leaving the field will do to the frames. */
function helpOf({
  typed,
  texts,
  text,
  different,
  way,
}: {
  typed: string | null;
  texts: readonly (string | null)[];
  text: string | null;
  different: number;
  way: WriteWay;
}): string {
  if (typed === null || texts.length < 2 || typed.trim() === '' || typed === (text ?? '')) return '';
  const empty = texts.filter((its) => its === null).length;
  if (way === 'fill')
    return empty === 0
      ? 'None of them is empty: nothing is written.'
      : `Fills ${many(empty, 'empty frame')}.`;
  if (way === 'add') return `Is added in ${many(texts.length, 'frame')}.`;
  return different > 0
    ? `Replaces what ${many(texts.length - empty, 'frame')} say.`
    : `Written into ${many(texts.length, 'frame')}.`;
}
