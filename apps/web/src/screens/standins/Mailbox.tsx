import { Box } from '@mui/material';
import { useGet } from '../../data/useGet';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { GROUND, INK } from '../../theme/theme';

/** What the simulated mail server took: it goes to nobody. */
export function Mailbox() {
  const { data, error } = useGet('/stand-ins/mailbox');
  return (
    <Section title="Mail that was taken">
      <Problem error={error} />
      {data?.length === 0 && <Box sx={{ color: INK.soft }}>No message has come yet.</Box>}
      {data?.map(({ name, from, to, subject, text, files }) => (
        <Box key={name} component="details" sx={{ py: 0.5, borderBottom: `1px solid ${GROUND.raised}` }}>
          <summary>
            To {to}: “{subject}”
          </summary>
          <Box sx={{ color: INK.soft }}>From {from}</Box>
          <Box sx={{ whiteSpace: 'pre-wrap', overflowWrap: 'anywhere', my: 1 }}>{text}</Box>
          {files.length > 0 && <Box>Beside it: {files.join(', ')}</Box>}
        </Box>
      ))}
    </Section>
  );
}
