import { Box, TextField } from '@mui/material';
import { filledMessage, isAddress, messageProblem } from '@arkiv/core';
import { useEffect, useState } from 'react';
import { bytes, many } from '../../../data/format';
import { post, type Api } from '../../../data/http';
import { useSettings } from '../../../data/live';
import { useMailAccount, useMessageWords } from '../../../data/messages';
import { useOutputSpecs } from '../../../data/outputSpecs';
import { Loading } from '../../../parts/Loading';
import { FormDialog } from '../../../parts/FormDialog';
import { Problem } from '../../../parts/Problem';
import { useAction } from '../../../parts/useAction';
import { useKeptState } from '../../../parts/useKeptState';
import { GROUND, INK } from '../../../theme/theme';
import { NoMailServer } from './NoMailServer';
import { WordsFields } from '../../../parts/WordsFields';

interface Props {
  shootId: string;
  /** of the shoot */
  title: string;
  frameIds: readonly string[];
  onClose: () => void;
}

/** Sends one or a few pictures beside words: made by a spec, how heavy they are said before. */
export function PicturesDialog({ shootId, title, frameIds, onClose }: Props) {
  const specs = useOutputSpecs().filter(({ format }) => format !== 'asis');
  const texts = useMessageWords();
  const { data: settings } = useSettings();
  const { data: account } = useMailAccount();
  const [spec, setSpec] = useKeptState('mail.spec', specs[0]?.name ?? '');
  const chosen = specs.find(({ name }) => name === spec)?.name ?? specs[0]?.name ?? '';
  const [to, setTo] = useState('');
  const [name, setName] = useState('');
  const [written, setWritten] = useState<typeof texts.pictures | null>(null);
  const words = written ?? texts.pictures;
  const [made, setMade] = useState<{ of: string; files: Api['MadePictureDto'][] } | null>(null);
  const look = useAction(async (of: string) => {
    setMade({
      of,
      files: await post(`/shoots/${shootId}/picture-messages/made`, { frameIds: [...frameIds], spec: of }),
    });
  });
  const { run: lookAt } = look;
  useEffect(() => {
    if (chosen !== '') lookAt(chosen);
  }, [chosen, lookAt]);
  const filled = filledMessage(words, {
    ...{ name: name.trim(), shoot: title, title, pictures: many(frameIds.length, 'picture') },
    ...{ studio: settings?.studio ?? '', creator: settings?.creator ?? '' },
  });
  const files = made?.of === chosen ? made.files : null;
  const ready =
    files !== null && isAddress(to.trim()) && messageProblem(words) === null && account?.host !== '';
  const { run, busy, error, again } = useAction(async () => {
    await post(`/shoots/${shootId}/picture-messages`, {
      ...{ frameIds: [...frameIds], spec: chosen, message: { ...filled, to: to.trim() } },
    });
    onClose();
  });
  return (
    <FormDialog
      title={`Send ${many(frameIds.length, 'picture')} beside a message`}
      deed="Send it"
      width="md"

      onSubmit={() => run()}
      {...{ ready, busy, onClose }}
    >
      <NoMailServer />
      <Box sx={{ display: 'grid', gap: 2, gridTemplateColumns: { sm: '1fr 1fr' }, mt: 1 }}>
        <TextField
          label="Address"
          type="email"
          value={to}
          autoFocus
          onChange={(event) => setTo(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 254 }, inputLabel: { shrink: true } }}
        />
        <TextField
          label="Name, for the greeting"
          value={name}
          onChange={(event) => setName(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 60 }, inputLabel: { shrink: true } }}
        />
      </Box>
      <TextField
        select
        label="Made as"
        value={chosen}
        onChange={(event) => setSpec(event.target.value)}
        slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
      >
        {specs.map((one) => (
          <option key={one.name} value={one.name}>
            {one.name}
          </option>
        ))}
      </TextField>
      <Box role="status" sx={{ color: INK.soft }}>
        {files
          ? `${files.map((file) => `${file.name}, ${bytes(file.bytes)}`).join(' · ')}`
          : !look.error && <Loading what="the pictures" />}
      </Box>
      <Problem error={look.error} again={look.again} />
      <WordsFields words={words} onChange={setWritten} />
      <Box role="group" aria-label="As it will be read" sx={{ p: 1.5, border: `1px solid ${GROUND.line}` }}>
        <b>{filled.subject}</b>
        <Box sx={{ whiteSpace: 'pre-wrap', mt: 1 }}>{filled.text}</Box>
      </Box>
      <Problem error={error} again={again} />
    </FormDialog>
  );
}
