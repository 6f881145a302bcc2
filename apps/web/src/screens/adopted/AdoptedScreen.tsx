import { Box, Button, Checkbox, FormControlLabel } from '@mui/material';
import { useState } from 'react';
import { shownName } from '@arkiv/core';
import { findAddress, NO_QUESTION } from '../../data/findQuestion';
import { withFolder } from '../../data/folderPart';
import { many } from '../../data/format';
import { post, put, type Api } from '../../data/http';
import { useSettings } from '../../data/live';
import { useGet } from '../../data/useGet';
import { adoptedState, RULE_WORDS } from '../../parts/adoptWords';
import { FormDialog } from '../../parts/FormDialog';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';
import { AdoptForm } from './AdoptForm';
import { TakeInFolder } from './TakeInFolder';

type Adopted = Api['AdoptedDto'];

/** Folders whose pictures are in the archive where they lie. */
export function AdoptedScreen() {
  const { data, error, mutate } = useGet('/adopted');
  const [adds, setAdds] = useState(false);
  const none = data?.length === 0;
  return (
    <Page
      title="Adopted folders"
      lead="Pictures that lie on a disk already are culled, found and delivered where they are. The pictures are only read, and nothing is moved until you take it in."
    >
      <Problem error={error} />
      {!data && !error && <Loading what="the adopted folders" />}
      {data && data.length > 0 && (
        <Section title="In the archive">
          {data.map((one) => (
            <Line key={one.id} adopted={one} onChanged={() => void mutate()} />
          ))}
        </Section>
      )}
      {data && (
        <Section title="Adopt a folder">
          {none || adds ? (
            <AdoptForm onCancel={none ? null : () => setAdds(false)} />
          ) : (
            <Button color="inherit" onClick={() => setAdds(true)}>
              Adopt a folder …
            </Button>
          )}
        </Section>
      )}
    </Page>
  );
}

function Line({ adopted, onChanged }: { adopted: Adopted; onChanged: () => void }) {
  const { id, at, path, drive, rule, sidecars, trouble, firstShoot, frames, online } = adopted;
  const [forgets, setForgets] = useState(false);
  const [takes, setTakes] = useState(false);
  const { data: settings } = useSettings();
  const name = shownName(path.split('/').at(-1) || drive);
  const allow = useAction(async () => {
    await put(`/adopted/${id}`, { sidecars: !sidecars });
    onChanged();
  });
  const again = useAction(() => post(`/adopted/${id}/again`));
  return (
    <Box
      role="group"
      aria-label={`Adopted folder “${name}”`}
      sx={{ py: 1, borderBottom: `1px solid ${GROUND.raised}` }}
    >
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1 }}>
        <Box sx={{ flex: '1 1 320px', minWidth: 0 }}>
          <Box sx={{ fontWeight: 560 }}>{name}</Box>
          <Box sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere' }}>
            {shownName(at ?? `${path} on “${drive}”`)} · {RULE_WORDS[rule][0].toLowerCase()} is a shoot
          </Box>
          <Box sx={{ ...CAPTION, color: INK.soft }}>{adoptedState(adopted)}</Box>
        </Box>
        {firstShoot !== null && frames > 0 && <TextLink to={`/shoots/${firstShoot}/cull`}>Cull</TextLink>}
        {frames > 0 && (
          <TextLink to={findAddress({ ...NO_QUESTION, line: withFolder('', { path, below: true }) })}>
            Walk its folders
          </TextLink>
        )}
        <Button size="small" color="inherit" disabled={again.busy} onClick={() => again.run()}>
          Look again
        </Button>
        {frames > 0 && settings && (
          <Button size="small" color="inherit" disabled={!online} onClick={() => setTakes(true)}>
            Take it in …
          </Button>
        )}
        <Button size="small" color="inherit" onClick={() => setForgets(true)}>
          Forget it …
        </Button>
      </Box>
      {trouble !== null && <Box sx={{ color: STRIKE_TEXT }}>{trouble}</Box>}
      <FormControlLabel
        control={
          <Checkbox size="small" checked={sidecars} disabled={allow.busy} onChange={() => allow.run()} />
        }
        label="Sidecars may be written beside its pictures"
      />
      <Problem error={allow.error ?? again.error} />
      {takes && settings && (
        <TakeInFolder
          {...{ adopted, name }}
          studio={settings.pattern}
          onClose={() => setTakes(false)}
          onDone={onChanged}
        />
      )}
      {forgets && (
        <Forget
          adopted={adopted}
          name={name}
          onClose={() => setForgets(false)}
          onDone={() => {
            setForgets(false);
            onChanged();
          }}
        />
      )}
    </Box>
  );
}

function Forget({
  adopted: { id, frames, shoots },
  name,
  onClose,
  onDone,
}: {
  adopted: Adopted;
  name: string;
  onClose: () => void;
  onDone: () => void;
}) {
  const { run, busy, error } = useAction(async () => {
    await post(`/adopted/${id}/forget`);
    onDone();
  });
  return (
    <FormDialog
      title={`Forget “${name}”?`}
      deed="Forget it"
      ready
      busy={busy}
      width="sm"
      onlyAsks
      onClose={onClose}
      onSubmit={run}
    >
      <Box>
        {many(frames, 'frame')} in {many(shoots, 'shoot')} leave the archive. Every file stays where it lies,
        as it is.
      </Box>
      <Box sx={{ color: INK.soft }}>
        They do not come back by themselves. Their marks are kept: under Bin, each shoot can be brought back.
      </Box>
      <Problem error={error} />
    </FormDialog>
  );
}
