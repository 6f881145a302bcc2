import { Box, Button, Checkbox, FormControlLabel, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { post, put, type Api } from '../../data/http';
import { FolderField } from '../../parts/FolderField';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { INK } from '../../theme/theme';

type Destination = Api['DestinationDto'];

const NOWHERE: Api['ReachDto'] = { path: '', url: 'https://', host: '', port: 22, user: '', carried: false };

interface Props {
  /** null: a new one */
  before: Destination | null;
  onDone: () => void;
  onCancel: () => void;
}

/** Fields that neither spelling nor browsers should have a hand in. */
const PLAIN = {
  inputLabel: { shrink: true },
  htmlInput: { spellCheck: false, autoComplete: 'off' },
} as const;
const SECRET = {
  inputLabel: { shrink: true },
  htmlInput: { spellCheck: false, autoComplete: 'new-password' },
} as const;

/** How a destination is reached. What opens it is written once, kept encrypted, and never shown again. */
export function DestinationForm({ before, onDone, onCancel }: Props) {
  const [name, setName] = useState(before?.name ?? '');
  const [kind, setKind] = useState<Destination['kind']>(before?.kind ?? 'webdav');
  const [reach, setReach] = useState(before?.reach ?? NOWHERE);
  const [password, setPassword] = useState('');
  const [privateKey, setPrivateKey] = useState('');
  const [passphrase, setPassphrase] = useState('');
  const change = (part: Partial<Api['ReachDto']>) => setReach((now) => ({ ...now, ...part }));
  const { run, busy, error } = useAction(async () => {
    // What belongs to another kind is not kept with this one.
    const own =
      kind === 'folder'
        ? { ...NOWHERE, url: '', path: reach.path.trim(), carried: reach.carried }
        : kind === 'webdav'
          ? { ...NOWHERE, url: reach.url.trim(), user: reach.user.trim() }
          : {
              ...NOWHERE,
              url: '',
              host: reach.host.trim(),
              port: reach.port,
              user: reach.user.trim(),
              path: reach.path.trim(),
            };
    const wish = {
      ...{ name: name.trim(), kind, reach: own },
      ...(password !== '' && { password }),
      ...(privateKey !== '' && { privateKey, ...(passphrase !== '' && { passphrase }) }),
    };
    await (before ? put(`/destinations/${before.id}`, wish) : post('/destinations', wish));
    onDone();
  });
  const kept = before?.opens ? 'left empty: the one that is kept' : undefined;
  const ready =
    name.trim() !== '' &&
    (kind === 'folder'
      ? reach.path.trim() !== ''
      : kind === 'webdav'
        ? /^https?:\/\/.+/.test(reach.url.trim())
        : reach.host.trim() !== '' && reach.user.trim() !== '');
  return (
    <Box
      component="form"
      aria-label={before ? `Change “${before.name}”` : 'New destination'}
      sx={{ display: 'grid', gap: 1.5, my: 1.5, maxWidth: 640 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (ready && !busy) run();
      }}
    >
      <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: { sm: '1fr 1fr' } }}>
        <TextField
          label="Name"
          value={name}
          autoFocus
          onChange={(event) => setName(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 60 }, inputLabel: { shrink: true } }}
        />
        <TextField
          select
          label="It is"
          value={kind}
          onChange={(event) => setKind(event.target.value as Destination['kind'])}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
        >
          <option value="webdav">a WebDAV server</option>
          <option value="sftp">an SFTP server</option>
          <option value="folder">a folder of this computer</option>
        </TextField>
      </Box>
      {kind === 'folder' && (
        <>
          <FolderField
            label="Full path of a folder that is there"
            value={reach.path}
            onChange={(path) => change({ path })}
          />
          <FormControlLabel
            control={
              <Checkbox
                checked={reach.carried}
                onChange={(event) => change({ carried: event.target.checked })}
              />
            }
            label="Another program carries on what lies in it, as to a cloud: that it arrived there is not proven by copying"
          />
        </>
      )}
      {kind === 'webdav' && (
        <TextField
          label="Address of the folder there"
          value={reach.url}
          onChange={(event) => change({ url: event.target.value })}
          helperText={
            reach.url.startsWith('http:')
              ? 'Without encryption: whoever listens on the way can read the password and the pictures.'
              : undefined
          }
          slotProps={PLAIN}
        />
      )}
      {kind === 'sftp' && (
        <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: { sm: '1fr 110px' } }}>
          <TextField
            label="Server"
            value={reach.host}
            onChange={(event) => change({ host: event.target.value })}
            slotProps={PLAIN}
          />
          <TextField
            label="Port"
            type="number"
            value={reach.port}
            onChange={(event) => change({ port: Number(event.target.value) })}
            slotProps={{ inputLabel: { shrink: true }, htmlInput: { min: 1, max: 65535 } }}
          />
        </Box>
      )}
      {kind === 'sftp' && (
        <TextField
          label="Folder there; empty: the one that one comes into"
          value={reach.path}
          onChange={(event) => change({ path: event.target.value })}
          slotProps={PLAIN}
        />
      )}
      {kind !== 'folder' && (
        <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: { sm: '1fr 1fr' } }}>
          <TextField
            label="Name there"
            value={reach.user}
            onChange={(event) => change({ user: event.target.value })}
            slotProps={PLAIN}
          />
          <TextField
            label="Password"
            type="password"
            value={password}
            onChange={(event) => setPassword(event.target.value)}
            helperText={kept}
            slotProps={SECRET}
          />
        </Box>
      )}
      {kind === 'sftp' && (
        <>
          <TextField
            label="Private key, instead of a password, as an SSH client keeps it"
            value={privateKey}
            multiline
            minRows={2}
            maxRows={6}
            onChange={(event) => setPrivateKey(event.target.value)}
            helperText={kept}
            slotProps={PLAIN}
          />
          {privateKey !== '' && (
            <TextField
              label="Pass phrase of the key; empty: none"
              type="password"
              value={passphrase}
              onChange={(event) => setPassphrase(event.target.value)}
              slotProps={SECRET}
            />
          )}
        </>
      )}
      {kind !== 'folder' && (
        <Typography sx={{ color: INK.soft }}>
          Password and key are kept encrypted, under a key that lies beside the database and in no copy of it.
          They are never shown again.
        </Typography>
      )}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" disabled={!ready || busy}>
          Keep it
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
      </Box>
      <Problem error={error} />
    </Box>
  );
}
