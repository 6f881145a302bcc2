import { Box } from '@mui/material';
import { useMailAccount } from '../../../data/messages';
import { TextLink } from '../../../parts/TextLink';

/** Says that nothing can be sent yet, and where that is changed. */
export function NoMailServer() {
  const { data } = useMailAccount();
  if (!data || data.host !== '') return null;
  return (
    <Box>
      No mail server is named yet: <TextLink to="/studio#mail">name one in Studio</TextLink>, or copy the
      words and send them yourself.
    </Box>
  );
}
