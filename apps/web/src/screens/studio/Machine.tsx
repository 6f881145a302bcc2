import { Box, Button, TextField } from '@mui/material';
import { useState, type FormEvent } from 'react';
import { bytes, many, mediumDay } from '../../data/format';
import { del, put, type Api } from '../../data/http';
import { changeSettings } from '../../data/settings';
import { Problem } from '../../parts/Problem';
import { CAPTION, INK } from '../../theme/theme';
import { KeptField } from './KeptField';
import { useGet } from '../../data/useGet';
import { Programs } from './Programs';

/** What Arkiv keeps for itself on this machine, and who can reach it. */
export function Machine({ settings }: { settings: Api['SettingsDto'] }) {
  const { data: machine, error, mutate } = useGet('/machine');
  const newest = machine?.databaseCopies.at(-1);
  return (
    <Box sx={{ maxWidth: 560, mt: 1.5 }}>
      <Problem error={error} />
      <KeptField
        label="Previews may take, in GB"
        value={String(settings.previewGigabytes)}
        check={(text) =>
          /^\d{1,5}$/.test(text.trim()) && Number(text) >= 1 && Number(text) <= 10_000
            ? null
            : 'A whole number from 1 to 10,000.'
        }
        keep={(text) => changeSettings(() => ({ previewGigabytes: Number(text) })).then(() => mutate())}
        help={
          machine &&
          `They take ${bytes(machine.previewBytes)} now. What was not looked at for longest goes first and is made again when it is; the thumbnail of a frame whose drives are away never goes.`
        }
      />
      <Box sx={{ mt: 2.5 }}>
        <Box sx={{ ...CAPTION, color: INK.faint }}>The index</Box>
        <Box sx={{ overflowWrap: 'anywhere' }}>
          {machine &&
            (newest
              ? `${machine.dataDir} · copied each day, ${many(machine.databaseCopies.length, 'copy', 'copies')} kept, the last of ${mediumDay(newest)}`
              : `${machine.dataDir} · not copied yet`)}
        </Box>
      </Box>
      <Programs />
      {machine && <Reach machine={machine} onChange={() => void mutate()} />}
    </Box>
  );
}

function Reach({ machine, onChange }: { machine: Api['MachineDto']; onChange: () => void }) {
  const [asked, setAsked] = useState(false);
  return (
    <Box sx={{ mt: 2.5 }}>
      <Box sx={{ ...CAPTION, color: INK.faint }}>Who can reach it</Box>
      <Box>
        {machine.network
          ? 'Other machines can, by HTTPS and with the studio password.'
          : machine.hasPassword
            ? 'Only this machine can. A studio password is set: started with ARKIV_HOST=0.0.0.0, Arkiv answers others too, by HTTPS.'
            : 'Only this machine can. To open it to others, set a studio password here and start Arkiv with ARKIV_HOST=0.0.0.0.'}
      </Box>
      {machine.fingerprint && (
        <Box sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere', mt: 0.5 }}>
          SHA-256 of its certificate: {machine.fingerprint}
        </Box>
      )}
      {asked ? (
        <PasswordForm
          machine={machine}
          onLeave={() => setAsked(false)}
          onDone={() => {
            setAsked(false);
            onChange();
          }}
        />
      ) : (
        <Box sx={{ display: 'flex', gap: 2, mt: 1 }}>
          <Button color="inherit" variant="outlined" onClick={() => setAsked(true)}>
            {machine.hasPassword ? 'Change the studio password …' : 'Set a studio password …'}
          </Button>
          {machine.network && (
            <Button color="inherit" onClick={() => void del('/session').finally(() => location.reload())}>
              Sign out
            </Button>
          )}
        </Box>
      )}
    </Box>
  );
}

function PasswordForm({
  machine,
  onLeave,
  onDone,
}: {
  machine: Api['MachineDto'];
  onLeave: () => void;
  onDone: () => void;
}) {
  const [current, setCurrent] = useState('');
  const [password, setPassword] = useState('');
  const [again, setAgain] = useState('');
  const [error, setError] = useState<unknown>(null);
  const differs = again !== '' && again !== password;
  const send = (event: FormEvent) => {
    event.preventDefault();
    put('/password', { password, ...(machine.network ? { current } : {}) }).then(onDone, setError);
  };
  return (
    <Box component="form" onSubmit={send} sx={{ display: 'grid', gap: 1.5, mt: 1.5 }}>
      {machine.network && (
        <Secret
          label="The password so far"
          complete="current-password"
          value={current}
          onChange={setCurrent}
        />
      )}
      <Secret
        label="New studio password"
        complete="new-password"
        value={password}
        onChange={setPassword}
        help="10 characters at least. Everybody who is signed in has to sign in again."
      />
      <Secret
        label="Once more"
        complete="new-password"
        value={again}
        onChange={setAgain}
        help={differs ? 'The two differ.' : undefined}
      />
      <Problem error={error} />
      <Box>
        <Button type="submit" variant="contained" disabled={password === '' || again !== password}>
          Set the studio password
        </Button>
        <Button color="inherit" sx={{ ml: 2 }} onClick={onLeave}>
          Leave it as it is
        </Button>
      </Box>
    </Box>
  );
}

function Secret(props: {
  label: string;
  complete: string;
  value: string;
  onChange: (text: string) => void;
  help?: string;
}) {
  return (
    <TextField
      label={props.label}
      type="password"
      autoComplete={props.complete}
      value={props.value}
      onChange={(event) => props.onChange(event.target.value)}
      helperText={props.help}
      fullWidth
      slotProps={{ inputLabel: { shrink: true } }}
    />
  );
}
