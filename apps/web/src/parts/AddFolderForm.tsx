import { Box, Button, TextField, Typography } from '@mui/material';
import { useState, type FormEvent } from 'react';
import { ApiFailure, type Api } from '../data/http';
import { useSettings } from '../data/live';
import { legalOriginal, shownName, unreserved } from '@arkiv/core';
import { FolderField } from './FolderField';
import { Problem } from './Problem';
import { TextLink } from './TextLink';
import { useAction } from './useAction';

export interface AddFolderFormProps {
  /** what will happen to the folder */
  said: string;
  /** uses to choose from, the first one by default */
  uses?: Readonly<Record<string, string>>;
  /** places offered before anything is typed */
  suggestions?: readonly Api['SuggestedPlaceDto'][];
  /** `how`: what was answered where the folder is another archive’s drive */
  send: (root: string, name: string, use: string, how?: { takeOver: true }) => Promise<unknown>;
  onClose: () => void;
}

/** The fields in which a folder of this machine is named. */
export function AddFolderForm({ said, uses, suggestions, send, onClose }: AddFolderFormProps) {
  const [root, setRoot] = useState('');
  const [name, setName] = useState('');
  const [use, setUse] = useState(Object.keys(uses ?? {})[0] ?? '');
  const { run, busy, error } = useAction(async (at: string, how?: { takeOver: true }) => {
    await send(at, name, use, how);
    onClose();
  });
  const belongs = error instanceof ApiFailure && error.body.code === 'volume.belongs';
  const add = (event: FormEvent) => {
    event.preventDefault();
    run(root);
  };
  return (
    <Box component="form" sx={{ mt: 1.5, maxWidth: 760 }} onSubmit={add}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
        <Box sx={{ flex: '1 1 260px' }}>
          <FolderField
            autoFocus
            required
            label={uses ? 'Full path of a folder' : 'Full path of an existing folder'}
            value={root}
            onChange={setRoot}
            suggestions={suggestions}
          />
        </Box>
        <TextField
          label="Name"
          value={name}
          onChange={(e) => setName(e.target.value)}
          required
          sx={{ maxWidth: 160 }}
        />
        {uses && (
          <TextField
            select
            slotProps={{ select: { native: true } }}
            label="Use"
            value={use}
            onChange={(e) => setUse(e.target.value)}
            sx={{ maxWidth: 150 }}
          >
            {Object.entries(uses).map(([value, label]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </TextField>
        )}
        <Button type="submit" variant="outlined" color="inherit" disabled={busy}>
          Add
        </Button>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
      </Box>
      <Typography variant="body2" sx={{ color: 'text.secondary', mt: 0.5 }}>
        {said}
      </Typography>
      <Problem error={error} />
      {belongs && (
        <OthersDrive
          busy={busy}
          onOwnFolder={(folder) => run(`${root.replace(/\/+$/, '')}/${folder}`)}
          onTakeOver={() => run(root, { takeOver: true })}
        />
      )}
    </Box>
  );
}

/** The ways out where a folder is another archive's drive. */
function OthersDrive({
  busy,
  onOwnFolder,
  onTakeOver,
}: {
  busy: boolean;
  onOwnFolder: (folder: string) => void;
  onTakeOver: () => void;
}) {
  const { data: settings } = useSettings();
  const name = unreserved(legalOriginal(settings?.archive.name ?? '').replace(/[. ]+$/, ''));
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1, mb: 1 }}>
      <Button
        size="small"
        variant="outlined"
        color="inherit"
        disabled={busy}
        onClick={() => onOwnFolder(name)}
      >
        Use a folder “{shownName(name)}” on it
      </Button>
      <Button size="small" color="inherit" disabled={busy} onClick={onTakeOver}>
        Make the drive this archive’s
      </Button>
      <TextLink to="/archives">Archives on this computer</TextLink>
    </Box>
  );
}
