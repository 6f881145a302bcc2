import { Box, Button } from '@mui/material';
import { Fragment, useState } from 'react';
import { bytes, many, momentOf } from '../../data/format';
import { post, type Api } from '../../data/http';
import { useKept, useMissing, useVolumes } from '../../data/live';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { CopyOnto } from './CopyOnto';
import { useAction } from '../../parts/useAction';
import { Section } from '../../parts/Section';
import { TakeOff } from '../../parts/TakeOff';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';

/** Drive by drive: how many of the shoot's files are there, and since when they are known to be whole. */
export function KeptOn({ shoot }: { shoot: Api['ShootDto'] }) {
  const { data: kept } = useKept(shoot.id);
  const { data: volumes } = useVolumes();
  const { data: missing } = useMissing(shoot.id);
  const { run: begin, error, again } = useAction((ask: () => Promise<unknown>) => ask());
  const [taking, setTaking] = useState<string | null>(null);
  const shown = kept?.filter((on) => on.files > 0 || on.damaged > 0) ?? [];
  return (
    <Section
      title="Where they are kept"
      aside={
        shown.length > 0 && (
          <Button
            size="small"
            color="inherit"
            variant="outlined"
            onClick={() => begin(() => post('/copies/verifications', { shootId: shoot.id }))}
          >
            Verify all again
          </Button>
        )
      }
    >
      {!kept && <Loading what="the drives" />}
      {shown.map((on) => {
        const volume = volumes?.find((v) => v.id === on.volumeId);
        const all = on.files === shoot.files;
        return (
          <Fragment key={on.volumeId}>
            <Box
              sx={{
                display: 'flex',
                alignItems: 'center',
                gap: 2,
                py: 0.75,
                borderBottom: `1px solid ${GROUND.raised}`,
              }}
            >
              <Box sx={{ flex: 1, minWidth: 0 }}>
                <Box sx={{ fontWeight: 560 }}>{volume?.name ?? 'a drive'}</Box>
                <Box sx={{ ...CAPTION, color: all ? INK.soft : STRIKE_TEXT }}>
                  {all ? `all ${many(on.files, 'file')}` : `${on.files} of ${many(shoot.files, 'file')}`},{' '}
                  {bytes(on.bytes)}
                  {on.verifiedSince !== null && `, each verified since ${momentOf(on.verifiedSince)}`}
                  {volume && !volume.online && ' · not connected'}
                </Box>
                {on.damaged > 0 && (
                  <Box sx={{ color: STRIKE_TEXT }}>
                    {many(on.damaged, 'copy is', 'copies are')} damaged or missing here.
                  </Box>
                )}
              </Box>
              <Button
                size="small"
                color="inherit"
                disabled={!volume?.online}
                aria-label={`Verify again: ${volume?.name ?? 'this drive'}`}
                onClick={() =>
                  begin(() => post('/copies/verifications', { shootId: shoot.id, volumeId: on.volumeId }))
                }
              >
                Verify again
              </Button>
              <Button
                size="small"
                color="inherit"
                disabled={!volume?.online}
                aria-expanded={taking === on.volumeId}
                aria-label={`Take off: ${volume?.name ?? 'this drive'}`}
                onClick={() => setTaking((now) => (now === on.volumeId ? null : on.volumeId))}
              >
                Take off …
              </Button>
            </Box>
            {taking === on.volumeId && volume && (
              <TakeOff shootId={shoot.id} drive={volume} onEnd={() => setTaking(null)} />
            )}
          </Fragment>
        );
      })}
      <CopyOnto shoot={shoot} />
      {missing && missing.files > 0 && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 1.5 }}>
          <Box sx={{ flex: 1, color: STRIKE_TEXT }}>
            {many(missing.files, 'copy is', 'copies are')} missing, {bytes(missing.bytes)}.
          </Box>
          <Button
            variant="contained"
            onClick={() => begin(() => post('/copies/missing', { shootId: shoot.id }))}
          >
            Copy now to {missing.volumes.join(' and ')}
          </Button>
        </Box>
      )}
      {missing && missing.files === 0 && missing.nowhere > 0 && (
        <Box sx={{ color: STRIKE_TEXT, mt: 1 }}>
          {many(missing.nowhere, 'file lies', 'files lie')} on too few drives, and no further drive is here.
          Plug one in or add one on the Desk.
        </Box>
      )}
      <Problem error={error} again={again} />
    </Section>
  );
}
