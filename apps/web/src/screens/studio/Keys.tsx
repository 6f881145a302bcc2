import { Box, Button, TextField, Typography } from '@mui/material';
import { useMemo, useRef, useState } from 'react';
import { many } from '../../data/format';
import type { Api } from '../../data/http';
import { changeSettings } from '../../data/settings';
import { ACTIONS, GROUPS, type Action } from '../../keys/actions';
import { Bindings, keysAsText, keysFromText, SETS, shownKey, tidy, type OwnKeys } from '../../keys/bindings';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { INK } from '../../theme/theme';
import { KeyDialog } from './KeyDialog';
import styles from './Keys.module.css';

/** Every key of Cull: shown as it is bound, changed by pressing another, as whole sets, carried as a file. */
export function Keys({ settings }: { settings: Api['SettingsDto'] }) {
  const own: OwnKeys = settings.keys;
  const bindings = useMemo(() => new Bindings(own), [own]);
  const [changing, setChanging] = useState<{ action: Action; keyNow: string | null } | null>(null);
  const [brought, setBrought] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const { run: keep, error } = useAction((next: OwnKeys) =>
    changeSettings(() => ({ keys: next as Record<string, string[]> })),
  );
  const changed = Object.keys(own).length;
  const set = SETS.find((one) => JSON.stringify(tidy(one.own)) === JSON.stringify(own));
  const bringing = useAction(async (chosen: File) => {
    const { own: next, unknown } = keysFromText(await chosen.text());
    await changeSettings(() => ({ keys: next as Record<string, string[]> }));
    setBrought(
      `Brought in: ${many(Object.keys(next).length, 'action')} with other keys than they come with.` +
        (unknown.length > 0 ? ` Unknown here, and left out: ${unknown.join(', ')}.` : ''),
    );
  });
  return (
    <Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'flex-start', mt: 1.5 }}>
        <TextField
          select
          label="Set of keys"
          value={set?.id ?? 'own'}
          onChange={(event) => keep(tidy(SETS.find(({ id }) => id === event.target.value)!.own))}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          sx={{ maxWidth: 430 }}
          helperText={
            changed === 0
              ? 'All keys are as they come.'
              : `${many(changed, 'action')} with other keys than they come with.`
          }
        >
          {!set && <option value="own">your own</option>}
          {SETS.map(({ id, words }) => (
            <option key={id} value={id}>
              {words}
            </option>
          ))}
        </TextField>
        <Button color="inherit" onClick={() => save(keysAsText(own))}>
          Save as a file
        </Button>
        <Button color="inherit" onClick={() => file.current?.click()}>
          Bring in from a file …
        </Button>
        <input
          ref={file}
          type="file"
          accept="application/json,.json"
          hidden
          aria-label="File of keys"
          onChange={(event) => {
            const [chosen] = event.target.files ?? [];
            event.target.value = '';
            setBrought('');
            if (chosen) bringing.run(chosen);
          }}
        />
      </Box>
      {brought && (
        <Box role="status" sx={{ color: INK.soft, mt: 1 }}>
          {brought}
        </Box>
      )}
      <Problem error={error ?? bringing.error} />
      <div className={styles.groups}>
        {GROUPS.map((group) => (
          <section key={group} className={styles.group} aria-label={group}>
            <h3>{group}</h3>
            {ACTIONS.filter((action) => action.group === group).map((action) => (
              <div key={action.id} className={styles.row} data-own={action.id in own || undefined}>
                <span className={styles.does}>{action.does}</span>
                {bindings.keysOf(action).map((key) => (
                  <button
                    key={key}
                    type="button"
                    className={styles.key}
                    title="Change or take away"
                    aria-label={`${action.does}: ${shownKey(key)}, change`}
                    onClick={() => setChanging({ action, keyNow: key })}
                  >
                    {shownKey(key)}
                  </button>
                ))}
                <button
                  type="button"
                  className={styles.add}
                  title="One more key"
                  aria-label={`${action.does}: one more key`}
                  onClick={() => setChanging({ action, keyNow: null })}
                >
                  +
                </button>
              </div>
            ))}
          </section>
        ))}
      </div>
      <Typography variant="body2" sx={{ color: INK.soft }}>
        Letters and digits go by their place on the keyboard, so that a hand finds them on every layout; signs
        by what is typed. ? shows in Cull what is bound.
      </Typography>
      {changing && (
        <KeyDialog
          {...changing}
          bindings={bindings}
          onKeep={(next) => {
            setChanging(null);
            keep(next);
          }}
          onClose={() => setChanging(null)}
        />
      )}
    </Box>
  );
}

function save(text: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
  link.download = 'arkiv-keys.json';
  link.click();
  URL.revokeObjectURL(link.href);
}
