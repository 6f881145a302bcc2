import { Box, Button, TextField } from '@mui/material';
import { useRef, useState, useSyncExternalStore } from 'react';
import { useNavigate } from 'react-router';
import { shownName } from '@arkiv/core';
import { dragsFiles, fromDrop, fromInput } from '@arkiv/sending';
import { bytes, many, momentOf } from '../../data/format';
import { post, type Api } from '../../data/http';
import { uploads } from '../../data/uploads';
import { isHere, type ChosenFile } from '@arkiv/sending';
import { useGet } from '../../data/useGet';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK, MARKER } from '../../theme/theme';
import { SendingFiles } from './SendingFiles';
import { UploadLinks } from './UploadLinks';

type Upload = Api['UploadDto'];

/** Files from this computer or telephone to the archive's: chosen or dropped, proven, then taken in as a card is. */
export function UploadsScreen() {
  const { data, error, mutate } = useGet('/uploads');
  const sending = useSyncExternalStore(uploads.subscribe, uploads.snapshot);
  const changed = () => void mutate();
  const open = data?.filter(({ readerId }) => readerId === null) ?? [];
  const ready = data?.filter(({ readerId }) => readerId !== null) ?? [];
  const current = open.find(({ id }) => id === uploads.upload) ?? null;
  return (
    <Page
      title="Upload"
      lead="Pictures from another computer, a telephone or other people: each file is held against its checksum when it is here, and then taken in as a card is."
    >
      <Problem error={error} />
      {!data && !error && <Loading what="the uploads" />}
      {data && current && (
        <Section title={shownName(current.name)}>
          <Drop into={current.id} />
          <SendingFiles files={sending} />
          <Ends upload={current} onChanged={changed} />
        </Section>
      )}
      {data && !current && (
        <Section title="Send files">
          <Begin onBegun={changed} />
        </Section>
      )}
      {open.some((one) => one !== current) && (
        <Section title="Not over">
          {open
            .filter((one) => one !== current)
            .map((upload) => (
              <NotOver key={upload.id} upload={upload} onChanged={changed} />
            ))}
        </Section>
      )}
      {ready.length > 0 && (
        <Section title="Ready to be taken in">
          {ready.map(({ id, name, at, files, bytes: size, readerId }) => (
            <Box key={id} sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2, py: 0.75 }}>
              <Box sx={{ flex: '1 1 300px' }}>
                {shownName(name)}{' '}
                <Box component="span" sx={{ ...CAPTION, color: INK.soft }}>
                  {many(files, 'file')}, {bytes(size)} · begun {momentOf(at)}
                </Box>
              </Box>
              <TextLink to={`/intake/${readerId}`}>Take it in</TextLink>
            </Box>
          ))}
        </Section>
      )}
      {/* Not before what stands above it: it would move under a hand. */}
      {(data || error) && (
        <Section title="Links for others">
          <UploadLinks />
        </Section>
      )}
    </Page>
  );
}

/** Names an upload and takes the first files for it. */
function Begin({ onBegun }: { onBegun: () => void }) {
  const [name, setName] = useState('');
  const begin = useAction(async (chosen: ChosenFile[]) => {
    if (chosen.length === 0) return;
    const { id } = await post('/uploads', { name: name.trim() || `Upload of ${momentOf(Date.now())}` });
    await uploads.into(id);
    uploads.add(chosen);
    onBegun();
  });
  return (
    <>
      <TextField
        label="What it is"
        placeholder="Second photographer, ceremony"
        value={name}
        onChange={(event) => setName(event.target.value)}
        helperText="Shows on the Desk as the card’s name. Empty: its day."
        slotProps={{ inputLabel: { shrink: true }, htmlInput: { maxLength: 120 } }}
        sx={{ width: '100%', maxWidth: 420, mb: 2 }}
      />
      <Choose onChosen={begin.run} busy={begin.busy} />
      <Problem error={begin.error} />
    </>
  );
}

function Drop({ into }: { into: string }) {
  const adding = useAction(async (chosen: ChosenFile[]) => {
    await uploads.into(into);
    uploads.add(chosen);
  });
  return (
    <>
      <Choose onChosen={adding.run} busy={adding.busy} />
      <Problem error={adding.error} />
    </>
  );
}

/** Files by a picker, a folder by a picker, or both dropped. */
function Choose({ onChosen, busy }: { onChosen: (chosen: ChosenFile[]) => void; busy: boolean }) {
  const [over, setOver] = useState(false);
  const dropping = useAction(async (found: Promise<ChosenFile[]>) => onChosen(await found));
  return (
    <Box
      role="group"
      aria-label="Files to send"
      onDragOver={(event) => {
        // Words and addresses are no pictures: nothing is fetched from other places.
        if (!dragsFiles(event.dataTransfer)) return;
        event.preventDefault();
        event.dataTransfer.dropEffect = 'copy';
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        dropping.run(fromDrop(event.dataTransfer));
      }}
      sx={{
        ...{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2, p: 3, maxWidth: 760 },
        border: `2px dashed ${over ? MARKER : GROUND.line}`,
        bgcolor: over ? GROUND.raised : 'transparent',
      }}
    >
      <Picker words="Choose files …" folder={false} busy={busy} onChosen={onChosen} />
      <Picker words="Choose a folder …" folder busy={busy} onChosen={onChosen} />
      <Box sx={{ color: INK.soft }}>or drop them here, folders too</Box>
      <Problem error={dropping.error} />
    </Box>
  );
}

/** A button that opens the system's own dialog for files, or for a folder. */
function Picker({
  words,
  folder,
  busy,
  onChosen,
}: {
  words: string;
  folder: boolean;
  busy: boolean;
  onChosen: (chosen: ChosenFile[]) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button variant="outlined" color="inherit" disabled={busy} onClick={() => input.current!.click()}>
        {words}
      </Button>
      <input
        ref={input}
        hidden
        type="file"
        multiple
        aria-label={words}
        {...(folder ? { webkitdirectory: '' } : {})}
        onChange={({ target }) => {
          const chosen = fromInput(target.files!);
          target.value = '';
          onChosen(chosen);
        }}
      />
    </>
  );
}

/** Whether more comes, and what becomes of what is here. */
function Ends({ upload, onChanged }: { upload: Upload; onChanged: () => void }) {
  const navigate = useNavigate();
  const files = useSyncExternalStore(uploads.subscribe, uploads.snapshot);
  const busy = uploads.isBusy;
  const here = files.filter(isHere).length;
  const close = useAction(async () => {
    const { readerId } = await post(`/uploads/${upload.id}/close`);
    uploads.clear();
    onChanged();
    await navigate(`/intake/${readerId}`);
  });
  return (
    <Box sx={{ mt: 2 }}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
        <Button
          variant="contained"
          disabled={busy || close.busy || here + upload.files === 0}
          onClick={() => close.run()}
        >
          That is all: take it in
        </Button>
        {busy && (
          <Button color="inherit" onClick={() => uploads.stop()}>
            Stop sending
          </Button>
        )}
        {!busy && (
          <Button
            color="inherit"
            onClick={() => {
              uploads.clear();
              onChanged();
            }}
          >
            Later
          </Button>
        )}
      </Box>
      <Box sx={{ ...CAPTION, color: INK.soft, mt: 0.5 }}>
        Other screens can be looked at meanwhile. If the line breaks or this page is closed, choose the same
        files again: what is here is not sent twice.
      </Box>
      <Problem error={close.error} />
    </Box>
  );
}

/** One that was cut off, or left for later. */
function NotOver({ upload, onChanged }: { upload: Upload; onChanged: () => void }) {
  const navigate = useNavigate();
  const { id, name, at, files, bytes: size, coming, by } = upload;
  const on = useAction(async () => {
    await uploads.into(id);
    onChanged();
  });
  const close = useAction(async () => {
    const { readerId } = await post(`/uploads/${id}/close`);
    onChanged();
    await navigate(`/intake/${readerId}`);
  });
  const forget = useAction(async () => {
    await post(`/uploads/${id}/forget`);
    onChanged();
  });
  return (
    <Box role="group" aria-label={shownName(name)} sx={{ py: 1, borderBottom: `1px solid ${GROUND.raised}` }}>
      <Box sx={{ fontWeight: 560 }}>{shownName(name)}</Box>
      <Box sx={{ color: INK.soft }}>
        {many(files, 'file is', 'files are')} here, {bytes(size)}
        {coming.length > 0 &&
          `; ${many(coming.length, 'was', 'were')} ${by === null ? 'cut off' : 'begun'} on the way`}
        . Begun {momentOf(at)}
        {by !== null && ` by ${shownName(by)}, by a link: it goes on until they say that it is all`}.
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mt: 0.5 }}>
        {by === null && (
          <Button size="small" variant="outlined" color="inherit" disabled={on.busy} onClick={() => on.run()}>
            Go on with it
          </Button>
        )}
        {files > 0 && (
          <Button size="small" color="inherit" disabled={close.busy} onClick={() => close.run()}>
            {by === null ? 'Take in what is here' : 'End it, and take in what is here'}
          </Button>
        )}
        {files === 0 && (
          <Button size="small" color="inherit" disabled={forget.busy} onClick={() => forget.run()}>
            Let go of it
          </Button>
        )}
      </Box>
      <Problem error={on.error ?? close.error ?? forget.error} />
    </Box>
  );
}
