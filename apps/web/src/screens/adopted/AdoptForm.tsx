import {
  Box,
  Button,
  Checkbox,
  FormControl,
  FormControlLabel,
  FormLabel,
  Radio,
  RadioGroup,
} from '@mui/material';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useSWRConfig } from 'swr';
import { post, type Api } from '../../data/http';
import { useGet } from '../../data/useGet';
import { RULE_WORDS } from '../../parts/adoptWords';
import { FolderField } from '../../parts/FolderField';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { CAPTION, INK } from '../../theme/theme';
import { AdoptExample } from './AdoptExample';

type Rule = Api['AdoptedDto']['rule'];

/** A folder that is to be adopted, and beside it what it would become. `onCancel` null: there is nothing to go back to. */
export function AdoptForm({ onCancel }: { onCancel: (() => void) | null }) {
  const navigate = useNavigate();
  const { mutate } = useSWRConfig();
  const { data: suggestions } = useGet('/volumes/suggestions');
  const [path, setPath] = useState('');
  const [rule, setRule] = useState<Rule>('top');
  const [sidecars, setSidecars] = useState(false);
  const said = path.trim().replace(/(.)\/+$/, '$1');
  const { run, busy, error } = useAction(async () => {
    const adopted = await post('/adopted', { path: said, rule, sidecars });
    await Promise.all([mutate('/adopted'), mutate('/volumes')]);
    if (adopted.firstShoot !== null) await navigate(`/shoots/${adopted.firstShoot}/cull`);
    else onCancel?.();
  });
  return (
    <Box
      component="form"
      aria-label="Adopt a folder"
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 1fr) minmax(0, 1fr)' },
        gap: 3,
        alignItems: 'start',
      }}
      onSubmit={(event) => {
        event.preventDefault();
        if (said !== '' && !busy) run();
      }}
    >
      <Box sx={{ display: 'grid', gap: 2 }}>
        <FolderField
          label="Full path of the folder"
          autoFocus={onCancel !== null}
          value={path}
          onChange={setPath}
          suggestions={suggestions}
        />
        <FormControl component="fieldset">
          <FormLabel component="legend">What becomes a shoot</FormLabel>
          <RadioGroup value={rule} onChange={(event) => setRule(event.target.value as Rule)}>
            {(Object.keys(RULE_WORDS) as Rule[]).map((one) => (
              <FormControlLabel
                key={one}
                value={one}
                control={<Radio size="small" />}
                label={
                  <>
                    {RULE_WORDS[one][0]}
                    <Box component="span" sx={{ ...CAPTION, color: INK.soft, ml: 1 }}>
                      {RULE_WORDS[one][1]}
                    </Box>
                  </>
                }
              />
            ))}
          </RadioGroup>
        </FormControl>
        <Box>
          <FormControlLabel
            control={<Checkbox checked={sidecars} onChange={(event) => setSidecars(event.target.checked)} />}
            label="Sidecars may be written beside its pictures"
          />
          <Box sx={{ ...CAPTION, color: INK.soft }}>
            So that other programs see your marks. Where they may not, marks are kept in the archive alone,
            and sidecars of others are only read.
          </Box>
        </Box>
        <Box sx={{ display: 'flex', gap: 1 }}>
          <Button type="submit" variant="contained" disabled={said === '' || busy}>
            Adopt it and cull
          </Button>
          {onCancel && (
            <Button color="inherit" onClick={onCancel}>
              Cancel
            </Button>
          )}
        </Box>
        <Problem error={error} />
      </Box>
      {said !== '' && <AdoptExample path={said} rule={rule} />}
    </Box>
  );
}
