import { Box } from '@mui/material';
import { useMessages } from '../../../data/messages';
import { Section } from '../../../parts/Section';
import { TextLink } from '../../../parts/TextLink';
import { INK } from '../../../theme/theme';
import { MessageList } from './MessageList';

/** Pictures that went out beside messages, and how others do. */
export function PicturesPart({ shootId }: { shootId: string }) {
  const sent = useMessages(shootId).data?.filter(({ kind }) => kind === 'pictures') ?? [];
  return (
    <Section title="Pictures beside a message">
      <Box sx={{ color: INK.soft }}>
        One picture or a few go out beside a message: choose them in{' '}
        <TextLink to={`/shoots/${shootId}/cull`}>Cull</TextLink>, then press Alt Y there.
      </Box>
      <MessageList messages={sent} label="Pictures that were sent" />
    </Section>
  );
}
