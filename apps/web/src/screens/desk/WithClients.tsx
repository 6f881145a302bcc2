import { Box } from '@mui/material';
import { choosingWords } from '../../data/choosing';
import { useGet } from '../../data/useGet';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';

/** Galleries that close soon while something is left to be chosen, and choices that were sent. */
export function WithClients() {
  const { data } = useGet('/galleries/choosing');
  const now = Date.now();
  const all = data
    ?.map((one) => ({ ...one, words: choosingWords(one, now) }))
    .filter(({ words }) => words !== '');
  if (!all || all.length === 0) return null;
  return (
    <Section title="With clients">
      {all.map(({ id, shootId, title, words }) => (
        <Box key={id} sx={{ mb: 1 }}>
          <TextLink to={`/shoots/${shootId}/deliver`}>{title}</TextLink>
          <Box>{words}</Box>
        </Box>
      ))}
    </Section>
  );
}
