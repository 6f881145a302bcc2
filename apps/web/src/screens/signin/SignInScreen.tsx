import { Box, Button, TextField, Typography } from '@mui/material';
import { useState, type FormEvent } from 'react';
import { post } from '../../data/http';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { GROUND, INK } from '../../theme/theme';

/** Asked for where others can reach the server. Marks that wait in this browser go out afterwards. */
export function SignInScreen({ onSignedIn }: { onSignedIn: () => void }) {
  const [password, setPassword] = useState('');
  const { run, busy, error } = useAction(async () => {
    try {
      await post('/session', { password });
    } catch (failure) {
      setPassword('');
      throw failure;
    }
    onSignedIn();
  });
  const signIn = (event: FormEvent) => {
    event.preventDefault();
    run();
  };
  return (
    <Box
      component="main"
      sx={{ height: '100vh', display: 'grid', placeItems: 'center', bgcolor: GROUND.base, p: 2 }}
    >
      <Box component="form" onSubmit={(event) => void signIn(event)} sx={{ width: 'min(380px, 100%)' }}>
        <Typography variant="h1" sx={{ mb: 1 }}>
          Sign in
        </Typography>
        <Box sx={{ color: INK.soft, mb: 2 }}>
          This archive is open to other machines. Whoever knows the studio password may use it.
        </Box>
        <TextField
          label="Studio password"
          type="password"
          autoComplete="current-password"
          autoFocus
          fullWidth
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          slotProps={{ inputLabel: { shrink: true } }}
        />
        <Problem error={error} />
        <Button type="submit" variant="contained" fullWidth disabled={busy || password === ''} sx={{ mt: 2 }}>
          Sign in
        </Button>
      </Box>
    </Box>
  );
}
