import { Box, Button, TextField } from '@mui/material';
import { useState } from 'react';
import { shownName } from '@arkiv/core';
import { momentOf } from '../../data/format';
import { post, type Api } from '../../data/http';
import { useGet } from '../../data/useGet';
import { FolderField } from '../../parts/FolderField';
import { FormDialog } from '../../parts/FormDialog';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK } from '../../theme/theme';

type Archive = Api['ArchiveHereDto'];

/** The archives of this computer: which there are, where they answer, and a new one. */
export function ArchivesScreen() {
  const { data, error, mutate } = useGet('/archives');
  const [closed, setClosed] = useState(false);
  const [adds, setAdds] = useState(false);
  const changed = () => void mutate();
  return (
    <Page
      title="Archives on this computer"
      lead="Each has its own drives, shoots and settings, and is open or closed by itself. A drive belongs to one of them."
    >
      <Problem error={error} />
      {!data && !error && <Loading what="the archives" />}
      {data && (
        <Box role="list" aria-label="Archives" sx={{ mb: 4 }}>
          {data.map((archive) => (
            <Line
              key={archive.folder}
              archive={archive}
              closed={archive.own && closed}
              onClosed={() => setClosed(true)}
              onChanged={changed}
            />
          ))}
        </Box>
      )}
      {data && !closed && (
        <Section title="Another archive">
          {adds ? (
            <NewArchive onCancel={() => setAdds(false)} />
          ) : (
            <Button color="inherit" onClick={() => setAdds(true)}>
              Make or open another archive …
            </Button>
          )}
        </Section>
      )}
    </Page>
  );
}

function Line({
  archive,
  closed,
  onClosed,
  onChanged,
}: {
  archive: Archive;
  /** it was this page's own, and its server was ended from here */
  closed: boolean;
  onClosed: () => void;
  onChanged: () => void;
}) {
  const { folder, name, own, address, open, there } = archive;
  const [asks, setAsks] = useState(false);
  const opening = useAction(async () => location.assign((await post('/archives/open', { folder })).address));
  const forgetting = useAction(async () => {
    await post('/archives/forget', { folder });
    onChanged();
  });
  return (
    <Box
      role="listitem"
      aria-label={shownName(name)}
      sx={{ py: 1.25, borderBottom: `1px solid ${GROUND.raised}` }}
    >
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1 }}>
        <Box sx={{ flex: '1 1 320px', minWidth: 0 }}>
          <Box sx={{ fontWeight: 560 }}>{shownName(name)}</Box>
          <Box sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere' }}>{shownName(folder)}</Box>
          <Box sx={{ ...CAPTION, color: INK.soft }}>{closed ? 'closed just now' : stateOf(archive)}</Box>
        </Box>
        {!own && address !== null && (
          <Button variant="outlined" color="inherit" component="a" href={address}>
            Go to it
          </Button>
        )}
        {!own && there && !open && (
          <Button variant="outlined" color="inherit" disabled={opening.busy} onClick={() => opening.run()}>
            {opening.busy ? 'Opening …' : 'Open'}
          </Button>
        )}
        {!own && !open && (
          <Button
            size="small"
            color="inherit"
            disabled={forgetting.busy}
            title="Its folder stays as it is."
            onClick={() => forgetting.run()}
          >
            Take off this list
          </Button>
        )}
        {own && !closed && (
          <Button size="small" color="inherit" onClick={() => setAsks(true)}>
            Close it …
          </Button>
        )}
      </Box>
      <Problem error={opening.error ?? forgetting.error} />
      {asks && (
        <Close
          name={shownName(name)}
          onClose={() => setAsks(false)}
          onDone={() => {
            setAsks(false);
            onClosed();
          }}
        />
      )}
    </Box>
  );
}

function stateOf({ own, address, open, there, opened }: Archive): string {
  if (own) return 'open in this window';
  if (!there) return `its index is not in this folder; opened last on ${momentOf(opened)}`;
  if (address !== null) return `open at ${address.replace(/^https?:\/\/|\/$/g, '')}`;
  if (open) return 'is being opened';
  return `closed; opened last on ${momentOf(opened)}`;
}

function Close({ name, onClose, onDone }: { name: string; onClose: () => void; onDone: () => void }) {
  const { run, busy, error } = useAction(async () => {
    await post('/archives/close');
    onDone();
  });
  return (
    <FormDialog
      title={`Close “${name}”`}
      deed="Close the archive"
      ready
      busy={busy}
      width="sm"
      onlyAsks
      onSubmit={run}
      onClose={onClose}
    >
      <Box>
        Its program on this computer ends, for every window and every telephone that looks at it. Jobs stop
        where they are and go on when it is opened again, here from another archive’s page or by starting
        Arkiv.
      </Box>
      <Problem error={error} />
    </FormDialog>
  );
}

function NewArchive({ onCancel }: { onCancel: () => void }) {
  const [name, setName] = useState('');
  const [folder, setFolder] = useState('');
  const { run, busy, error } = useAction(async () => {
    location.assign((await post('/archives', { name: name.trim(), folder: folder.trim() })).address);
  });
  return (
    <Box
      component="form"
      aria-label="Another archive"
      sx={{ display: 'grid', gap: 2, maxWidth: 620 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim() !== '' && folder.trim() !== '' && !busy) run();
      }}
    >
      <TextField
        label="Name"
        autoFocus
        required
        value={name}
        onChange={(event) => setName(event.target.value)}
        helperText="Stands at the top of every page of it."
      />
      <FolderField required label="Full path of its folder" value={folder} onChange={setFolder} />
      <Box sx={{ ...CAPTION, color: INK.soft }}>
        Its index is kept there: an empty folder, or one that is made now. Pictures lie on the drives that you
        add to it afterwards. A folder that holds an archive already is opened as it is.
      </Box>
      <Problem error={error} />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" disabled={busy}>
          {busy ? 'Opening …' : 'Open it'}
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
      </Box>
    </Box>
  );
}
