import { Box } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useGet } from '../../data/useGet';
import { adoptedState } from '../../parts/adoptWords';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';

/** Adopted folders that cannot be looked at though their drive is here, where there are any. */
export function AdoptedRows() {
  const { data } = useGet('/adopted');
  const troubled = data?.filter(({ trouble, online }) => trouble !== null && online) ?? [];
  if (troubled.length === 0) return null;
  return (
    <Section title="Adopted folders" aside={<TextLink to="/adopted">All of them</TextLink>}>
      {troubled.map((one) => (
        <Box key={one.id} sx={{ py: 0.75, borderBottom: `1px solid ${GROUND.raised}` }}>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, alignItems: 'baseline' }}>
            <Box sx={{ fontWeight: 560 }}>{shownName(one.at ?? one.path)}</Box>
            <Box sx={{ ...CAPTION, color: INK.soft }}>{adoptedState(one)}</Box>
          </Box>
          <Box sx={{ color: STRIKE_TEXT }}>{one.trouble}</Box>
        </Box>
      ))}
    </Section>
  );
}
