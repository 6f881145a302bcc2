import { Box } from '@mui/material';
import type { Api } from '../../../data/http';
import { INK } from '../../../theme/theme';

type Rights = Api['GuestRightsDto'];
const WORDS: Record<keyof Rights, string> = {
  choose: 'choose',
  remark: 'write remarks',
  download: 'take files along',
};

/** What people who come by a link may do beside looking. */
export function RightsPart({ rights, onChange }: { rights: Rights; onChange: (rights: Rights) => void }) {
  return (
    <Box role="group" aria-label="What they may do" sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 3 }}>
      {(Object.keys(WORDS) as (keyof Rights)[]).map((right) => (
        <label key={right} style={{ display: 'flex', gap: 8, alignItems: 'center', minHeight: 32 }}>
          <input
            type="checkbox"
            style={{ accentColor: INK.full }}
            checked={rights[right]}
            onChange={() => onChange({ ...rights, [right]: !rights[right] })}
          />
          They may {WORDS[right]}
        </label>
      ))}
    </Box>
  );
}
