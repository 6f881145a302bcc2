import { Box, Button, TextField, Typography } from '@mui/material';
import { useState, type FormEvent } from 'react';
import type { Api } from '../data/http';
import { FolderField } from './FolderField';
import { Problem } from './Problem';
import { useAction } from './useAction';

export interface AddFolderFormProps {
  /** what will happen to the folder */
  said: string;
  /** uses to choose from, the first one by default */
  uses?: Readonly<Record<string, string>>;
  /** places offered before anything is typed */
  suggestions?: readonly Api['SuggestedPlaceDto'][];
  send: (root: string, name: string, use: string) => Promise<unknown>;
  onClose: () => void;
}

/** The fields in which a folder of this machine is named. */
export function AddFolderForm({ said, uses, suggestions, send, onClose }: AddFolderFormProps) {
  const [root, setRoot] = useState('');
  const [name, setName] = useState('');
  const [use, setUse] = useState(Object.keys(uses ?? {})[0] ?? '');
  const { run, busy, error } = useAction(async () => {
    await send(root, name, use);
    onClose();
  });
  const add = (event: FormEvent) => {
    event.preventDefault();
    run();
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
    </Box>
  );
}
