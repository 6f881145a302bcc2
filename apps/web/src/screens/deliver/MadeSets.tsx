import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { bytes, many, momentOf } from '../../data/format';
import { post, type Api } from '../../data/http';
import { useGet } from '../../data/useGet';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';
import { SendDialog } from './SendDialog';
import { SentLine } from './SentLine';
import { alongWords, changesWords, remakeWords } from './setWords';

/** The sets of a shoot as they lie in their folders; `busy`: one of them is being made. */
export function MadeSets({ shootId, busy }: { shootId: string; busy: boolean }) {
  const { data: sets, error } = useGet(`/shoots/${shootId}/deliveries`);
  const { data: sent } = useGet(`/shoots/${shootId}/sent`);
  return (
    <Section title="Sets">
      <Problem error={error} />
      {!sets && !error && <Loading what="the sets" />}
      {sets?.length === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>Nothing has been made yet.</Typography>
      )}
      {sets?.map((set) => (
        <MadeSet
          key={set.jobId}
          set={set}
          shootId={shootId}
          sent={sent?.filter(({ deliveryId }) => deliveryId === set.jobId) ?? []}
          busy={busy}
        />
      ))}
    </Section>
  );
}

interface SetProps {
  set: Api['DeliveryDto'];
  shootId: string;
  /** where it went, the newest first */
  sent: readonly Api['SentSetDto'][];
  busy: boolean;
}

function MadeSet({ set, shootId, sent, busy }: SetProps) {
  const [sending, setSending] = useState(false);
  const { jobId, title, at, result } = set;
  const { data: changes, error } = useGet(`/deliveries/${jobId}/changes`);
  const { run, busy: starting, error: refused, again } = useAction(() => post(`/deliveries/${jobId}/again`));
  const name = title.slice(title.lastIndexOf(' · ') + 3);
  const what = changes && changesWords(changes);
  const along = alongWords(result.along);
  return (
    <Box
      role="group"
      aria-label={`Set “${name}”`}
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        gap: 2,
        alignItems: 'center',
        py: 1,
        borderBottom: `1px solid ${GROUND.raised}`,
      }}
    >
      <Box sx={{ flex: '1 1 320px' }}>
        <Box sx={{ fontWeight: 640 }}>{name}</Box>
        <Box sx={{ color: INK.soft }}>
          {momentOf(at)} · {result.line ? `keepers: ${result.line} · ` : ''}
          {many(result.files, 'file')}, {bytes(result.bytes)}
          {along && ` · ${along}`}
          {result.times > 1 && ` · made ${result.times} times`}
          {result.failed > 0 && (
            <Box component="span" sx={{ color: STRIKE_TEXT }}>
              {' '}
              · {result.failed} could not be made
            </Box>
          )}
        </Box>
        <Box sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere' }}>
          {result.volume} / {result.zip.path}
        </Box>
        <Problem error={error} />
        {changes?.problem && (
          <Box sx={{ color: STRIKE_TEXT }}>What is new cannot be told: {changes.problem}</Box>
        )}
        {changes && what && (
          <Box sx={{ mt: 0.5 }}>
            {what}: {changes.names.join(', ')}
            {changes.fresh + changes.changed + changes.gone > changes.names.length && ' …'}
            <Box sx={{ color: INK.soft }}>{remakeWords(changes)}</Box>
          </Box>
        )}
        {sent.map((one) => (
          <SentLine key={one.id} sent={one} />
        ))}
        <Problem error={refused} again={again} />
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
        {what && (
          <Button variant="contained" disabled={busy || starting} onClick={() => run()}>
            Bring up to date
          </Button>
        )}
        <Button variant="outlined" color="inherit" disabled={busy} onClick={() => setSending(true)}>
          Send …
        </Button>
        {result.sheet && (
          <Button
            variant="outlined"
            color="inherit"
            href={`/api/deliveries/${jobId}/sheet`}
            target="_blank"
            rel="noreferrer"
          >
            Open the proof sheet
          </Button>
        )}
        <Button variant="outlined" color="inherit" href={`/api/deliveries/${jobId}/zip`} download>
          Download zip, {bytes(result.zip.size)}
        </Button>
      </Box>
      {sending && <SendDialog set={set} name={name} shootId={shootId} onClose={() => setSending(false)} />}
    </Box>
  );
}
