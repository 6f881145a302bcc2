import { Button } from '@mui/material';
import { useState } from 'react';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { LedgerEntries } from '../ledger/LedgerEntries';
import { PostingDialog } from './PostingDialog';

/** The shoot's part of the ledger: all that ever went out of it, postings too. */
export function WentOutPart({ shootId, keepers }: { shootId: string; keepers: number }) {
  const [open, setOpen] = useState(false);
  return (
    <Section title="What went out">
      <LedgerEntries shown={{ shootId }} of="of this shoot" />
      <p style={{ display: 'flex', gap: 16, alignItems: 'center' }}>
        <Button color="inherit" variant="outlined" disabled={keepers === 0} onClick={() => setOpen(true)}>
          Enter a posting …
        </Button>
        <TextLink to="/ledger">Ledger of all shoots</TextLink>
      </p>
      {open && <PostingDialog shootId={shootId} onClose={() => setOpen(false)} />}
    </Section>
  );
}
