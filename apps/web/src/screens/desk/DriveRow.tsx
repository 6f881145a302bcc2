import { Box, Button } from '@mui/material';
import { FAILS_TWICE, shownName } from '@arkiv/core';
import { bytes, count, many, momentOf } from '../../data/format';
import { post, type Api } from '../../data/http';
import { useWaitingSidecars } from '../../data/live';
import { ROLE_WORDS } from '../../data/roles';
import { TextLink } from '../../parts/TextLink';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';

/** A drive: whether it is there, its room, and which files have no other copy. */
export function DriveRow({
  volume,
  others,
}: {
  volume: Api['VolumeDto'];
  /** all drives, to say which of them share a disk */
  others: readonly Api['VolumeDto'][];
}) {
  const { free, total } = volume;
  const { data: sidecars } = useWaitingSidecars();
  const waiting = sidecars?.find(({ volumeId }) => volumeId === volume.id);
  const { run: begin, error, again } = useAction((ask: () => Promise<unknown>) => ask());
  const alike =
    volume.role === 'backup' && !volume.deviceUnknown
      ? others.filter((v) => v.id !== volume.id && v.device === volume.device && v.role !== 'edit')
      : [];
  const used = free !== null && total ? 1 - free / total : 0;
  return (
    <Box sx={{ py: 1, borderBottom: `1px solid ${GROUND.raised}` }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Box sx={{ flex: 1, fontWeight: 560 }}>{volume.name}</Box>
        <Box sx={{ ...CAPTION, color: INK.faint }}>{ROLE_WORDS[volume.role]}</Box>
      </Box>
      {volume.online ? (
        <>
          <Box sx={{ height: 4, my: 0.75, bgcolor: GROUND.line }} aria-hidden>
            <Box sx={{ width: `${used * 100}%`, height: 4, bgcolor: INK.soft }} />
          </Box>
          <Box sx={{ ...CAPTION, color: volume.nearlyFull ? STRIKE_TEXT : INK.soft }}>
            {free === 0
              ? 'full: nothing can be written to it'
              : `${bytes(free ?? 0)} free of ${bytes(total ?? 0)}${volume.nearlyFull ? ', nearly full' : ''}`}
          </Box>
          {volume.readOnly && (
            <Box sx={{ color: STRIKE_TEXT }}>
              It is read-only: check its lock or its rights. Nothing is written to it.
            </Box>
          )}
        </>
      ) : (
        <Box sx={{ color: STRIKE_TEXT }}>
          {volume.belongsTo !== null && (
            <>
              The archive “{shownName(volume.belongsTo)}” made it its own: nothing on it is read or written
              here. <TextLink to="/studio#drives">Drives and copies</TextLink>
            </>
          )}
          {volume.belongsTo === null &&
            (volume.silent
              ? 'It does not answer. Check its cable or network; nothing else is held up by it.'
              : 'Not connected. Its frames can still be looked at and marked; nothing is written to it.')}
        </Box>
      )}
      {volume.role === 'backup' && (volume.deviceUnknown || alike.length > 0) && (
        <Box sx={{ color: STRIKE_TEXT }}>
          {volume.deviceUnknown
            ? 'Its disk is not known: its copies count as lying where the main ones do.'
            : `On the same disk as ${alike.map((v) => v.name).join(' and ')}: together they count as one copy.`}{' '}
          <TextLink to="/studio#drives">Drives and copies</TextLink>
        </Box>
      )}
      {volume.files > 0 && (
        <Box sx={{ ...CAPTION, color: volume.onlyHere > 0 ? STRIKE_TEXT : INK.soft }}>
          {volume.onlyHere > 0
            ? `${many(volume.onlyHere, 'file has', 'files have')} no other copy`
            : `${many(volume.files, 'file')}, each also on another drive`}
        </Box>
      )}
      {volume.oldestProof !== null && (
        <Box sx={{ ...CAPTION, color: INK.soft }}>oldest proof of a copy: {momentOf(volume.oldestProof)}</Box>
      )}
      {volume.failures >= FAILS_TWICE && (
        <Box sx={{ color: STRIKE_TEXT }}>
          {count(volume.failures)} files on it could not be read within a year, or were not what was written.
          Replace it before it dies: make its copies on another drive first.{' '}
          <TextLink to={`/trail?find=${encodeURIComponent(volume.name)}`}>Paper trail</TextLink>
        </Box>
      )}
      {waiting && (
        <Box sx={{ color: STRIKE_TEXT }}>
          {many(waiting.frames, 'sidecar waits', 'sidecars wait')} for this drive: {shownName(waiting.reason)}
          {volume.online && (
            <Button
              size="small"
              color="inherit"
              sx={{ px: 1, minWidth: 0 }}
              aria-label={`Try now: sidecars on ${volume.name}`}
              onClick={() => begin(() => post('/marks/sidecars'))}
            >
              Try now
            </Button>
          )}
        </Box>
      )}
      {volume.damaged > 0 && (
        <Box sx={{ color: STRIKE_TEXT }}>
          {many(volume.damaged, 'copy', 'copies')} on it {volume.damaged === 1 ? 'is' : 'are'} damaged or
          missing.
        </Box>
      )}
      {volume.online && (volume.files > 0 || volume.damaged > 0 || volume.ejectable) && (
        <Box sx={{ ml: -1 }}>
          {volume.ejectable && (
            <Button
              size="small"
              color="inherit"
              sx={{ px: 1, minWidth: 0 }}
              aria-label={`Eject: ${volume.name}`}
              onClick={() => begin(() => post(`/volumes/${volume.id}/eject`))}
            >
              Eject
            </Button>
          )}
          <Button
            size="small"
            color="inherit"
            sx={{ px: 1, minWidth: 0 }}
            aria-label={`Verify again: ${volume.name}`}
            onClick={() => begin(() => post('/copies/verifications', { volumeId: volume.id }))}
          >
            Verify again
          </Button>
          {(volume.damaged > 0 || volume.onlyHere > 0) && (
            <Button
              size="small"
              color="inherit"
              sx={{ px: 1, minWidth: 0 }}
              aria-label={`Copy now: what is missing of ${volume.name}`}
              onClick={() => begin(() => post('/copies/missing', { volumeId: volume.id }))}
            >
              Copy now
            </Button>
          )}
        </Box>
      )}
      <Problem error={error} again={again} />
    </Box>
  );
}
