import { Box, TextField } from '@mui/material';
import type { Api } from '../../data/http';
import { changeSettings } from '../../data/settings';
import { KeptField } from './KeptField';

const HOURS = Array.from({ length: 13 }, (_, hour) => hour);

/** Who the studio is, and when its day begins. */
export function StudioFacts({ settings }: { settings: Api['SettingsDto'] }) {
  const keep = (field: 'studio' | 'archiveName' | 'creator' | 'rights') => (text: string) =>
    changeSettings(() => ({ [field]: text.trim() }));
  const { creator, rights, dayStartHour } = settings;
  return (
    <Box
      sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fit, minmax(320px, 1fr))', gap: 2.5, mt: 1.5 }}
    >
      <KeptField
        label="Studio"
        value={settings.studio}
        keep={keep('studio')}
        help="Names the archive too, unless that has a name of its own."
      />
      <KeptField
        label="Name of this archive"
        value={settings.archiveName}
        placeholder={settings.archive.name}
        keep={keep('archiveName')}
        help={`Stands over every page, on its drives and in each shoot’s folder as “${settings.archive.name}”.`}
      />
      <KeptField
        label="Creator"
        value={creator}
        keep={keep('creator')}
        help={
          creator
            ? `Each new sidecar says: creator “${creator}”. Sidecars that name somebody keep that name.`
            : 'Empty: sidecars name only whom the camera or a template names.'
        }
      />
      <KeptField
        label="Copyright notice"
        value={rights}
        keep={keep('rights')}
        help={rights ? `Each new sidecar says: “${rights}”.` : 'Empty: no notice is written.'}
      />
      <TextField
        select
        label="A working day begins at"
        value={dayStartHour}
        onChange={(event) => void changeSettings(() => ({ dayStartHour: Number(event.target.value) }))}
        slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
        helperText={
          dayStartHour === 0
            ? 'A frame taken at 00:20 belongs to the day that has just begun.'
            : `A frame taken at ${clock(dayStartHour - 1)}:40 still belongs to the evening before.`
        }
      >
        {HOURS.map((hour) => (
          <option key={hour} value={hour}>
            {clock(hour)}:00
          </option>
        ))}
      </TextField>
    </Box>
  );
}

const clock = (hour: number): string => String(hour).padStart(2, '0');
