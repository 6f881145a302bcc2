import {
  Box,
  Button,
  Checkbox,
  FormControl,
  FormControlLabel,
  FormLabel,
  Radio,
  RadioGroup,
  TextField,
} from '@mui/material';
import { useState } from 'react';
import { shownName } from '@arkiv/core';
import { albumChoices, useAlbums } from '../../data/albums';
import { mediumDay } from '../../data/format';
import { post, put, type Api } from '../../data/http';
import { useSettings, useShoots } from '../../data/live';
import { FolderField } from '../../parts/FolderField';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { WatchExample } from './WatchExample';

export type WatchRule = Api['WatchRuleDto'];
export type WatchWish = Api['WatchWishDto'];

const TYPES: Record<WatchWish['types'][number], string> = {
  raw: 'Raws',
  jpeg: 'JPEGs',
  other: 'Other pictures',
  clip: 'Clips',
};
const NEW: WatchWish = {
  ...{ name: '', root: '', on: true, types: ['raw', 'jpeg', 'other', 'clip'], below: true, out: '' },
  // Programs that copy or send pause for less than a second; a slow line now and then for longer.
  settleSeconds: 3,
  ...{ shootId: null, title: '', client: '', place: '', plan: null, template: null, album: null },
  after: 'keep',
};
const wishOf = (rule: WatchRule): WatchWish => {
  const { id: _, root, busy: __, left: ___, trouble: ____, taken: _____, takenAt: ______, ...its } = rule;
  return { ...its, root: root ?? '' };
};

interface Props {
  /** null: a new one */
  before: WatchRule | null;
  onDone: () => void;
  onCancel: () => void;
}

/** A folder that is to be watched, and beside it what would happen now. */
export function WatchForm({ before, onDone, onCancel }: Props) {
  const [wish, setWish] = useState(before ? wishOf(before) : NEW);
  const { data: settings } = useSettings();
  const { data: shoots } = useShoots();
  const { tree } = useAlbums();
  const change = (part: Partial<WatchWish>) => setWish((now) => ({ ...now, ...part }));
  const said = { ...wish, name: wish.name.trim(), root: wish.root.trim(), out: wish.out.trim() };
  const ready = said.name !== '' && said.root !== '' && said.types.length > 0;
  const { run, busy, error } = useAction(async () => {
    await (before ? put(`/watch/${before.id}`, said) : post('/watch', said));
    onDone();
  });
  const text = (field: 'name' | 'out' | 'title' | 'client' | 'place') => ({
    value: wish[field],
    onChange: (event: { target: { value: string } }) => change({ [field]: event.target.value }),
    slotProps: { inputLabel: { shrink: true }, htmlInput: { maxLength: field === 'name' ? 80 : 120 } },
  });
  const choice = (field: 'shootId' | 'plan' | 'template' | 'album') => ({
    select: true,
    value: wish[field] ?? '',
    onChange: (event: { target: { value: string } }) => change({ [field]: event.target.value || null }),
    slotProps: { select: { native: true }, inputLabel: { shrink: true } },
  });
  return (
    <Box
      component="form"
      aria-label={before ? `Change “${before.name}”` : 'New watched folder'}
      sx={{ display: 'grid', gap: 1.75, my: 1.5, maxWidth: 760 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (ready && !busy) run();
      }}
    >
      <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: { sm: '1fr 2fr' } }}>
        <TextField label="Name" autoFocus {...text('name')} />
        <FolderField
          label="Full path of the folder"
          value={wish.root}
          onChange={(root) => change({ root })}
        />
      </Box>
      <FormControl component="fieldset">
        <FormLabel component="legend">What is taken in, with its sidecars and voice notes</FormLabel>
        <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
          {Object.entries(TYPES).map(([type, words]) => (
            <FormControlLabel
              key={type}
              control={
                <Checkbox
                  checked={wish.types.includes(type as 'raw')}
                  onChange={(event) =>
                    change({
                      types: event.target.checked
                        ? [...wish.types, type as 'raw']
                        : wish.types.filter((one) => one !== type),
                    })
                  }
                />
              }
              label={words}
            />
          ))}
          <FormControlLabel
            control={
              <Checkbox checked={wish.below} onChange={(event) => change({ below: event.target.checked })} />
            }
            label="also from folders below"
          />
        </Box>
      </FormControl>
      <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: { sm: '1fr 1fr' } }}>
        <TextField
          label="Name of a folder whose pictures stay out"
          helperText="Wherever it lies below. Empty: there is none."
          {...text('out')}
        />
        <TextField
          label="Seconds for which a file must not change"
          type="number"
          value={wish.settleSeconds}
          onChange={(event) => change({ settleSeconds: Math.round(Number(event.target.value)) })}
          helperText="Until then somebody may still be writing it."
          slotProps={{ inputLabel: { shrink: true }, htmlInput: { min: 0, max: 600, step: 1 } }}
        />
        <TextField label="Goes into" {...choice('shootId')}>
          <option value="">a shoot for each day</option>
          {shoots
            ?.filter(({ keptIn }) => !keptIn)
            .map(({ id, title, date }) => (
              <option key={id} value={id}>
                {shownName(title)}, {mediumDay(date)}
              </option>
            ))}
        </TextField>
        <TextField label="And into the album" {...choice('album')}>
          <option value="">none</option>
          {albumChoices(tree).map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </TextField>
      </Box>
      {wish.shootId === null && (
        <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: { sm: '1fr 1fr 1fr' } }}>
          <TextField label="Title of its shoots" placeholder={wish.name} {...text('title')} />
          <TextField label="Client" {...text('client')} />
          <TextField label="Place" {...text('place')} />
        </Box>
      )}
      <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: { sm: '1fr 1fr' } }}>
        {wish.shootId === null && (
          <TextField label="Names and folders" {...choice('plan')}>
            <option value="">as the studio’s</option>
            {settings?.plans.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </TextField>
        )}
        <TextField label="Metadata template" {...choice('template')}>
          <option value="">none</option>
          {settings?.templates.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </TextField>
      </Box>
      <FormControl component="fieldset">
        <FormLabel component="legend">The files in the folder, once they are taken in</FormLabel>
        <RadioGroup
          value={wish.after}
          onChange={(event) => change({ after: event.target.value as WatchWish['after'] })}
        >
          <FormControlLabel value="keep" control={<Radio />} label="stay where they are" />
          <FormControlLabel
            value="bin"
            control={<Radio />}
            label={`are moved into its bin (.arkiv-bin within it), each as soon as ${settings?.requiredCopies ?? 2} copies of it are proven`}
          />
        </RadioGroup>
      </FormControl>
      <FormControlLabel
        control={<Checkbox checked={wish.on} onChange={(event) => change({ on: event.target.checked })} />}
        label="Watch it"
      />
      {ready && <WatchExample wish={said} id={before?.id} />}
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
