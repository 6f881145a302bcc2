import { Box, Button } from '@mui/material';
import { shownName } from '@arkiv/core';
import { count, many } from '../../data/format';
import { post, type Api } from '../../data/http';
import { useGet } from '../../data/useGet';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { useAction } from '../../parts/useAction';
import { watchState } from '../../parts/watchWords';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';

/** Files named at once; all are in the folder. */
const NAMED = 4;

/** Folders that are watched, where there are any: what came, and what stays and why. */
export function WatchedRows() {
  const { data: rules } = useGet('/watch');
  if (!rules || rules.length === 0) return null;
  return (
    <Section title="Watched folders" aside={<TextLink to="/studio#watched">Rules</TextLink>}>
      {rules.map((rule) => (
        <Row key={rule.id} rule={rule} />
      ))}
    </Section>
  );
}

function Row({ rule }: { rule: Api['WatchRuleDto'] }) {
  const again = useAction(() => post(`/watch/${rule.id}/again`));
  const { left, trouble } = rule;
  return (
    <Box sx={{ py: 0.75, borderBottom: `1px solid ${GROUND.raised}` }}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, alignItems: 'baseline' }}>
        <Box sx={{ fontWeight: 560 }}>{rule.name}</Box>
        <Box sx={{ ...CAPTION, color: INK.soft }}>{watchState(rule)}</Box>
      </Box>
      {trouble !== null && <Box sx={{ color: STRIKE_TEXT }}>{trouble}</Box>}
      {left.length > 0 && (
        <Box sx={{ color: STRIKE_TEXT }}>
          {many(left.length, 'file')} {left.length === 1 ? 'stays' : 'stay'} in it:
          <Button
            size="small"
            color="inherit"
            sx={{ px: 1, py: 0, ml: 1, minWidth: 0 }}
            disabled={again.busy}
            aria-label={`Try again: files that stay in ${rule.name}`}
            onClick={() => again.run()}
          >
            Try again
          </Button>
          {left.slice(0, NAMED).map(({ path, reason }) => (
            <Box key={`${path} ${reason}`} sx={{ ...CAPTION, overflowWrap: 'anywhere' }}>
              {path !== '' && `${shownName(path)}: `}
              {reason}
            </Box>
          ))}
          {left.length > NAMED && <Box sx={CAPTION}>and {count(left.length - NAMED)} more</Box>}
        </Box>
      )}
      <Problem error={again.error} again={again.again} />
    </Box>
  );
}
