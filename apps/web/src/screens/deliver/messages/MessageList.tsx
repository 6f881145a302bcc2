import { Box } from '@mui/material';
import { bytes, momentOf } from '../../../data/format';
import type { Api } from '../../../data/http';
import { CAPTION, INK, STRIKE_TEXT } from '../../../theme/theme';

type Message = Api['MessageDto'];

const STATES: Record<Message['state'], string> = {
  waiting: 'about to be sent',
  sending: 'being sent',
  sent: 'sent',
  refused: 'not sent',
  unknown: 'perhaps sent',
};

/** What clients were written, the newest first, and where each message stands. */
export function MessageList({ messages, label }: { messages: readonly Message[]; label: string }) {
  if (messages.length === 0) return null;
  return (
    <Box component="ul" aria-label={label} sx={{ m: 0, mt: 1, p: 0, listStyle: 'none' }}>
      {messages.map(({ id, to, subject, state, reason, at, sentAt, attached }) => (
        <li key={id}>
          {to}: “{subject}” · {STATES[state]} {momentOf(sentAt ?? at)}
          {attached.length > 0 && (
            <Box component="span" sx={{ ...CAPTION, color: INK.soft, display: 'block' }}>
              {attached.map((file) => `${file.name}, ${bytes(file.bytes)}`).join(' · ')}
            </Box>
          )}
          {reason && (
            <Box component="span" sx={{ color: STRIKE_TEXT, display: 'block' }}>
              {reason}
            </Box>
          )}
        </li>
      ))}
    </Box>
  );
}
