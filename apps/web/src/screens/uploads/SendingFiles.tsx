import { Box, Button, LinearProgress } from '@mui/material';
import { shownName } from '@arkiv/core';
import { bytes, count, many } from '../../data/format';
import { uploads } from '../../data/uploads';
import { isAtWork, isHere, type Sending, type SendingState } from '@arkiv/sending';
import { CAPTION, INK, STRIKE_TEXT } from '../../theme/theme';

const STATE_WORDS: Readonly<Record<SendingState, string>> = {
  waiting: 'waits',
  reading: 'its checksum is made',
  sending: 'is being sent',
  proving: 'is read on the other side',
  whole: 'is here',
  there: 'was here already',
  failed: 'is not here',
};
/** Lines of files: those at work, and those that failed; more of these would say no more. */
const LINES = 60;

/** How far the sending is: in the whole, and each file that is at work or failed. */
export function SendingFiles({ files }: { files: readonly Sending[] }) {
  if (files.length === 0) return null;
  const sum = (of: readonly Sending[], what: 'sent' | 'size') =>
    of.reduce((n, one) => n + (what === 'sent' ? one.sent : one.file.size), 0);
  const whole = files.filter(isHere);
  const there = files.filter(({ state }) => state === 'there').length;
  const failed = files.filter(({ state }) => state === 'failed');
  const atWork = files.filter(isAtWork);
  const [sent, size] = [sum(files, 'sent'), sum(files, 'size')];
  const share = size === 0 ? 100 : (sent / size) * 100;
  return (
    <Box sx={{ mt: 2, maxWidth: 760 }}>
      <Box role="status">
        {count(whole.length)} of {many(files.length, 'file')} here and proven, {bytes(sent)} of {bytes(size)}
        {there > 0 && `; ${many(there, 'was', 'were')} here already`}
        {failed.length > 0 && `; ${many(failed.length, 'is', 'are')} not`}
      </Box>
      <LinearProgress
        variant="determinate"
        value={share}
        aria-label="Sent"
        color="inherit"
        sx={{ my: 1, height: 6 }}
      />
      {failed.length > 0 && (
        <Box sx={{ my: 1 }}>
          {failed.slice(0, LINES).map(({ path, reason }) => (
            <Box key={path} sx={{ color: STRIKE_TEXT, overflowWrap: 'anywhere' }}>
              {shownName(path)}: {shownName(reason ?? '')}
            </Box>
          ))}
          <Button size="small" variant="outlined" color="inherit" onClick={() => uploads.again()}>
            Try {failed.length === 1 ? 'it' : 'them'} again
          </Button>
        </Box>
      )}
      {atWork.map((one) => (
        <Box key={one.path} sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere' }}>
          {shownName(one.path)} {STATE_WORDS[one.state]}
          {one.state === 'sending' && `, ${bytes(one.sent)} of ${bytes(one.file.size)}`}
        </Box>
      ))}
    </Box>
  );
}
