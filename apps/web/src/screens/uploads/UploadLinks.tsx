import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { isLinkOpen } from '@arkiv/core';
import { bytes, momentOf } from '../../data/format';
import { del, type Api } from '../../data/http';
import { useSettings } from '../../data/live';
import { useGet } from '../../data/useGet';
import { CopyText } from '../../parts/CopyText';
import { OutsidePlace, useOutsideKnown } from '../../parts/OutsidePlace';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { UploadLinkDialog } from './UploadLinkDialog';

type Link = Api['UploadLinkDto'];

/** Addresses by which people outside send pictures: a second photographer, guests, a client. */
export function UploadLinks() {
  const { data: links, error, mutate } = useGet('/uploads/links');
  const isKnown = useOutsideKnown();
  const data = isKnown ? links : undefined;
  const [making, setMaking] = useState(false);
  return (
    <>
      <Problem error={error} />
      {data?.length === 0 && (
        <Box sx={{ color: INK.soft, mb: 1 }}>
          A second photographer, guests or a client send pictures by a link, and see nothing else of the
          archive. What comes waits here to be taken in.
        </Box>
      )}
      {data && data.length > 0 && <OutsidePlace none="Nobody can send by a link" only="these links" />}
      {data?.map((link) => (
        <LinkRow key={link.id} link={link} onChanged={() => void mutate()} />
      ))}
      <Button variant="outlined" color="inherit" sx={{ mt: 1.5 }} onClick={() => setMaking(true)}>
        A link by which others send …
      </Button>
      {making && <UploadLinkDialog onClose={() => setMaking(false)} onMade={() => void mutate()} />}
    </>
  );
}

function LinkRow({ link, onChanged }: { link: Link; onChanged: () => void }) {
  const { id, title, name, most, came, until, address, code } = link;
  const { data: settings } = useSettings();
  const { run, busy, error } = useAction(async () => {
    await del(`/uploads/links/${id}`);
    onChanged();
  });
  return (
    <Box role="group" aria-label={title} sx={{ py: 1, borderBottom: `1px solid ${GROUND.raised}` }}>
      <Box>
        <Box component="span" sx={{ fontWeight: 560 }}>
          {title}
        </Box>{' '}
        {name === '' ? 'for several' : `for ${name}`}
      </Box>
      <Box sx={{ color: INK.soft }}>{linkWords(link, Date.now())}</Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, alignItems: 'baseline' }}>
        {address === null ? (
          <span>Its address cannot be read any more: make another link.</span>
        ) : (
          <>
            <Box
              component="a"
              href={address}
              target="_blank"
              rel="noreferrer"
              sx={{ ...CAPTION, color: INK.full, overflowWrap: 'anywhere' }}
            >
              {address}
            </Box>
            {code !== null && <span>pass code {code}</span>}
            <CopyText text={address} say="Copy the link" />
            <CopyText
              text={messageOf({ title, address, code, until, most, came }, settings?.studio ?? '')}
              say="Copy as a message"
            />
          </>
        )}
        <Button
          size="small"
          color="inherit"
          disabled={busy}
          sx={{ px: 1, py: 0, minWidth: 0 }}
          aria-label={`Take it back: ${title}`}
          onClick={() => run()}
        >
          Take it back
        </Button>
      </Box>
      <Problem error={error} />
    </Box>
  );
}

/** What has come by a link, and how long it is open. `now`: milliseconds since 1970 UTC. */
export function linkWords({ most, came, until }: Pick<Link, 'most' | 'came' | 'until'>, now: number): string {
  const room = `${came === 0 ? 'Nothing' : bytes(came)} of ${bytes(most)} came by it`;
  if (until === null) return `${room}; open until it is taken back.`;
  const open = isLinkOpen({ until, revokedAt: null }, now);
  return `${room}; ${open ? 'open until' : 'its time was over on'} ${momentOf(until)}.`;
}

/** What is written to whom a link is for. */
export function messageOf(
  {
    title,
    address,
    code,
    until,
    most,
    came,
  }: Pick<Link, 'title' | 'code' | 'until' | 'most' | 'came'> & { address: string },
  studio: string,
): string {
  return [
    `${title}: please send your pictures here, as they come from the camera. There is room for ${bytes(most - came)}.`,
    address,
    ...(code === null ? [] : [`Pass code: ${code}`]),
    ...(until === null ? [] : [`The link is open until ${momentOf(until)}.`]),
    'Keep your own until you hear that all is here.',
    ...(studio === '' ? [] : [studio]),
  ].join('\n');
}
