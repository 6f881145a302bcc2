import { Box, Button, TextField, Typography } from '@mui/material';
import { useState, type FormEvent, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { useSWRConfig } from 'swr';
import { get, patch, post, type Api } from '../../data/http';
import { AddFolder } from '../../parts/AddFolder';
import { FolderField } from '../../parts/FolderField';
import { FromDrives } from '../../parts/FromDrives';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { GROUND, INK } from '../../theme/theme';
import { useGet } from '../../data/useGet';

/** The first visit: who the studio is, where pictures live, where the second copy goes. All of it can be skipped. */
export function WelcomeScreen() {
  const navigate = useNavigate();
  const { mutate } = useSWRConfig();
  const { data: suggestions } = useGet('/volumes/suggestions');
  const [studio, setStudio] = useState('');
  const [creator, setCreator] = useState('');
  const [first, setFirst] = useState<string | null>(null);
  const [second, setSecond] = useState('');
  const [copies, setCopies] = useState(2);
  const home = suggestions?.find((place) => place.kind === 'home');
  const place = first ?? home?.path ?? '';
  const leave = async (change: Record<string, unknown>) => {
    await mutate('/settings', await patch('/settings', { ...change, welcomed: true }), false);
    await navigate('/');
  };
  const skipping = useAction(() => leave({}));
  const beginning = useAction(async () => {
    if (place.trim())
      await post('/volumes', {
        root: place.trim(),
        name: nameOf(place, suggestions),
        role: 'working',
        create: true,
      });
    if (second.trim())
      await post('/volumes', {
        root: second.trim(),
        name: nameOf(second, suggestions),
        role: 'backup',
        create: true,
      });
    await leave({ studio: studio.trim(), creator: creator.trim(), requiredCopies: copies });
  });
  const { data: archives = [] } = useGet('/rebuild');
  /** The Desk sends back here while it knows of no drive. */
  const showWork = async () => {
    await mutate('/volumes', await get('/volumes'), false);
    await navigate('/');
  };
  const busy = skipping.busy || beginning.busy;
  const begin = (event: FormEvent) => {
    event.preventDefault();
    beginning.run();
  };
  return (
    <Page
      title="Welcome to Arkiv"
      lead="A minute for what Arkiv needs to know. All of it can be left out, and changed later under Studio."
    >
      <Box component="form" onSubmit={(event) => void begin(event)} sx={{ maxWidth: 760 }}>
        <Part
          title="Who you are"
          why="Goes into the sidecars of your frames; the camera’s files stay as they are."
        >
          <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fit, minmax(240px, 1fr))', gap: 2 }}>
            <TextField
              autoFocus
              label="Studio"
              value={studio}
              onChange={(event) => setStudio(event.target.value)}
              slotProps={{ inputLabel: { shrink: true } }}
            />
            <TextField
              label="Creator"
              value={creator}
              onChange={(event) => setCreator(event.target.value)}
              slotProps={{ inputLabel: { shrink: true } }}
            />
          </Box>
        </Part>
        <Part
          title="Where your pictures live"
          why="Cards are copied here, into a folder for each day. A folder that is not there is made; nothing that is in it is touched."
        >
          <FolderField
            label="Folder for the main copies"
            value={place}
            onChange={setFirst}
            suggestions={suggestions}
          />
        </Part>
        <Part
          title="Where the second copy goes"
          why="Each card is read once and written to both places, and each copy is read back. Best on another disk than the first."
        >
          <FolderField
            label="Folder or drive for the backup copies"
            value={second}
            onChange={setSecond}
            suggestions={suggestions?.filter((s) => s.kind !== 'home')}
            help={
              copies === 1
                ? undefined
                : 'Left empty: add a drive when it is at hand. Until then no card is called safe to clear.'
            }
          />
          <TextField
            select
            label="A card may be cleared when every file of it has"
            value={copies}
            onChange={(event) => setCopies(Number(event.target.value))}
            slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
            sx={{ mt: 2, width: 380, maxWidth: '100%' }}
          >
            <option value={1}>one verified copy</option>
            <option value={2}>2 verified copies on as many disks</option>
            <option value={3}>3 verified copies on as many disks</option>
          </TextField>
        </Part>
        <Problem error={beginning.error ?? skipping.error} />
        <Box sx={{ display: 'flex', gap: 2, mt: 1 }}>
          <Button
            type="submit"
            variant={archives.length > 0 ? 'outlined' : 'contained'}
            color={archives.length > 0 ? 'inherit' : 'primary'}
            disabled={busy}
          >
            {archives.length > 0 ? 'Begin a new archive' : 'Begin'}
          </Button>
          <Button color="inherit" disabled={busy} onClick={() => skipping.run()}>
            Skip this
          </Button>
        </Box>
      </Box>
      <Box sx={{ maxWidth: 760, mt: 5 }}>
        <Part
          title="Your drives hold an archive already"
          why="On a new computer, or where the database is gone: the drives tell what the archive knew, shoots, marks and what went out to whom."
        >
          <FromDrives onBegun={showWork} />
          <AddFolder
            words="Add a drive of that archive …"
            said="The folder that the shoots’ years lie in. Nothing in it is changed but the small id file, which notes that it is in use here."
            suggestions={suggestions?.filter((s) => s.kind !== 'home')}
            send={(root, name) => post('/volumes', { root, name, role: 'working', takeOver: true })}
          />
        </Part>
      </Box>
    </Page>
  );
}

function Part({ title, why, children }: { title: string; why: string; children: ReactNode }) {
  return (
    <Box component="section" sx={{ borderTop: `1px solid ${GROUND.line}`, pt: 1.25, mb: 3.5 }}>
      <Typography variant="h2" component="h2">
        {title}
      </Typography>
      <Typography variant="body2" sx={{ color: INK.soft, mb: 1.75 }}>
        {why}
      </Typography>
      {children}
    </Box>
  );
}

/** What a place is called that nobody named: its suggestion's name, else its last folder that tells something. */
function nameOf(path: string, suggestions: readonly Api['SuggestedPlaceDto'][] | undefined): string {
  const known = suggestions?.find((place) => place.path === path.trim());
  const parts = path.split('/').filter((part) => part !== '' && part !== 'Arkiv');
  return (known?.name ?? parts.at(-1) ?? 'Pictures').slice(0, 80);
}
