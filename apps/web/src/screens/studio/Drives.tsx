import { Box, Button, Checkbox, FormControlLabel, TextField, Typography } from '@mui/material';
import { countDevices, shownName } from '@arkiv/core';
import { useState } from 'react';
import { count, many } from '../../data/format';
import { patch, post, type Api } from '../../data/http';
import { changeSettings } from '../../data/settings';
import { useShootTotals, useVolumes } from '../../data/live';
import { AddFolder } from '../../parts/AddFolder';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { ROLE_WORDS, type Role } from '../../data/roles';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';
import { KeptField } from './KeptField';
import { useGet } from '../../data/useGet';

const NUMBERS = [1, 2, 3, 4];
const VERIFY_WORDS: [days: number, words: string][] = [
  [0, 'never: only when somebody asks for it'],
  [30, 'within a month'],
  [90, 'within three months'],
  [180, 'within half a year'],
  [365, 'within a year'],
];

/** Where pictures live, what each drive is for, and how many copies make a card safe. */
export function Drives({ settings }: { settings: Api['SettingsDto'] }) {
  const { data: volumes } = useVolumes();
  const { data: totals } = useShootTotals();
  const { data: suggestions } = useGet('/volumes/suggestions');
  const [error, setError] = useState<unknown>(null);
  const missing = totals?.missingCopies ?? 0;
  const kept = volumes?.filter((v) => v.role !== 'edit') ?? [];
  const devices = countDevices(kept.map((v) => v.device));
  const wanted = settings.requiredCopies;
  const change = (part: Partial<Api['SettingsDto']>) =>
    void changeSettings(() => part).then(() => setError(null), setError);
  return (
    <Box>
      <Box sx={{ maxWidth: 560, mt: 1.5, mb: 2 }}>
        <TextField
          select
          fullWidth
          label="A card may be cleared when every file of it has"
          value={wanted}
          onChange={(event) =>
            void changeSettings(() => ({ requiredCopies: Number(event.target.value) })).then(
              () => setError(null),
              setError,
            )
          }
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          helperText={
            missing > 0
              ? `${many(missing, 'archived file')} ${missing === 1 ? 'has' : 'have'} fewer now.`
              : totals && totals.shoots > 0
                ? 'Every archived file has as many now.'
                : 'Copies on one and the same disk count once.'
          }
        >
          {NUMBERS.map((n) => (
            <option key={n} value={n}>
              {n === 1 ? 'one verified copy' : `${count(n)} verified copies on as many disks`}
            </option>
          ))}
        </TextField>
        <TextField
          select
          fullWidth
          label="Each copy is read again by itself"
          value={settings.verifyDays}
          onChange={(event) => change({ verifyDays: Number(event.target.value) })}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          helperText="A little of each connected drive a day, the oldest proof first, after everything else."
          sx={{ mt: 2 }}
        >
          {VERIFY_WORDS.map(([days, words]) => (
            <option key={days} value={days}>
              {words}
            </option>
          ))}
        </TextField>
        <FormControlLabel
          sx={{ mt: 1 }}
          control={
            <Checkbox
              checked={settings.copyMissing}
              onChange={(event) => change({ copyMissing: event.target.checked })}
            />
          }
          label="Copies that are missing are made by themselves, when the drives are there (not of adopted folders)"
        />
        {volumes && devices < wanted && (
          <Box sx={{ color: STRIKE_TEXT, mt: 1 }}>
            {kept.length === 0
              ? 'No drive is added yet: nothing can be taken in until there is a place for it.'
              : `Your drives for main and backup copies lie on ${many(devices, 'disk')}: no card can become safe to clear until another disk is added.`}
          </Box>
        )}
      </Box>
      {volumes?.map((volume) => (
        <DriveLine key={volume.id} volume={volume} others={volumes} />
      ))}
      <AddFolder
        words="Add a drive or folder …"
        said="A small id file is put into the folder, so that it is known again under another path. Nothing else is changed."
        uses={ROLE_WORDS}
        suggestions={suggestions}
        send={(root, name, role, how) =>
          post('/volumes', { root, name, role: role as Role, create: true, ...how })
        }
      />
      <Problem error={error} />
    </Box>
  );
}

function DriveLine({ volume, others }: { volume: Api['VolumeDto']; others: readonly Api['VolumeDto'][] }) {
  const [stating, setStating] = useState(false);
  const send = (change: Api['ChangeVolumeDto']) => patch(`/volumes/${volume.id}`, change);
  const { run: quietly, error, again } = useAction(send);
  const backAgain = useAction(() => post(`/volumes/${volume.id}/back`));
  const alike = others.filter((v) => v.id !== volume.id && v.device === volume.device && !v.deviceUnknown);
  return (
    <Box sx={{ py: 1.5, borderBottom: `1px solid ${GROUND.raised}` }} role="group" aria-label={volume.name}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'start' }}>
        <Box sx={{ flex: '1 1 220px' }}>
          <KeptField
            label="Name"
            value={volume.name}
            check={(text) => (text.trim() === '' ? 'A drive needs a name.' : null)}
            keep={(name) => send({ name: name.trim() })}
            help={awayWords(volume)}
          />
        </Box>
        <TextField
          select
          label="Used for"
          value={volume.role}
          onChange={(event) => quietly({ role: event.target.value as Role })}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          sx={{ width: 160 }}
        >
          {Object.entries(ROLE_WORDS).map(([role, words]) => (
            <option key={role} value={role}>
              {words}
            </option>
          ))}
        </TextField>
        <Box sx={{ flex: '2 1 300px', ...CAPTION, color: INK.soft, pt: 0.5 }}>
          <Box sx={{ color: volume.deviceUnknown || alike.length > 0 ? STRIKE_TEXT : INK.soft }}>
            {volume.stated !== null
              ? `Its disk is “${volume.stated}”, by your word`
              : volume.deviceUnknown
                ? 'On which disk it lies cannot be found out: its copies count as lying on the same disk as others'
                : alike.length > 0
                  ? `It shares a disk with ${alike.map((v) => v.name).join(' and ')}: together they count as one copy`
                  : 'A disk of its own'}
          </Box>
          {!stating && (
            <Button size="small" color="inherit" sx={{ px: 0, minWidth: 0 }} onClick={() => setStating(true)}>
              Name its disk …
            </Button>
          )}
        </Box>
      </Box>
      {volume.belongsTo !== null && (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1 }}>
          <Box sx={{ color: STRIKE_TEXT }}>
            The archive “{shownName(volume.belongsTo)}” made it its own: this one reads and writes nothing on
            it.
          </Box>
          <Button size="small" color="inherit" disabled={backAgain.busy} onClick={() => backAgain.run()}>
            Make it this archive’s again
          </Button>
        </Box>
      )}
      {stating && (
        <Box sx={{ maxWidth: 560, mt: 1 }}>
          <KeptField
            label="Its disk, in your words"
            value={volume.stated ?? ''}
            keep={(text) => send({ device: text.trim() || null }).then(() => setStating(false))}
            help="Drives with the same word count as one disk. Empty: what can be found out counts."
          />
          <Typography variant="body2" sx={{ color: STRIKE_TEXT, mt: 0.5 }}>
            A card is cleared on the strength of this word: only name what you hold in your hand.
          </Typography>
        </Box>
      )}
      <Problem error={error} again={again} />
      <Problem error={backAgain.error} />
    </Box>
  );
}

function awayWords({ online, silent, belongsTo }: Api['VolumeDto']): string | undefined {
  if (online) return undefined;
  if (belongsTo !== null) return 'Another archive’s now.';
  return silent ? 'It does not answer.' : 'Not connected.';
}
