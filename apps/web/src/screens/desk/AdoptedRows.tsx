import { Box } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useGet } from '../../data/useGet';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { STRIKE_TEXT } from '../../theme/theme';

/** Adopted folders that cannot be looked at though their drive is here, where there are any. */
export function AdoptedRows() {
  const { data } = useGet('/adopted');
  const troubled = data?.filter(({ trouble, online }) => trouble !== null && online) ?? [];
  if (troubled.length === 0) return null;
  return (
    <Section title="Adopted folders" aside={<TextLink to="/adopted">All of them</TextLink>}>
      {troubled.map(({ id, at, path, trouble }) => (
        <Box key={id} sx={{ py: 0.75 }}>
          {shownName(at ?? path)}
          <Box sx={{ color: STRIKE_TEXT }}>{trouble}</Box>
        </Box>
      ))}
    </Section>
  );
}
