import { Box, Button } from '@mui/material';
import { filledMessage, isGalleryOpen, pileOfKind, type MessageKind } from '@arkiv/core';
import { useState } from 'react';
import { many, momentOf } from '../../../data/format';
import { del, patch, post, type Api } from '../../../data/http';
import { isOpen as isJobOpen, useJobs, useSettings } from '../../../data/live';
import { fieldsOf, useMessages, useMessageWords } from '../../../data/messages';
import { closingWords } from '../../../data/choosing';
import { saidByWords } from '../../../data/saidBy';
import { useStages } from '../../../data/stages';
import { CopyText } from '../../../parts/CopyText';
import { FrameThumbs } from '../../../parts/FrameThumbs';
import { JobRunning } from '../../../parts/JobRunning';
import { Problem } from '../../../parts/Problem';
import { TextLink } from '../../../parts/TextLink';
import { useAction } from '../../../parts/useAction';
import { CAPTION, GROUND, INK } from '../../../theme/theme';
import { becomesWords, choiceWords, otherWords, rightsWords, stateWords } from './galleryWords';
import { MessageDialog } from '../messages/MessageDialog';
import { MessageList } from '../messages/MessageList';
import { LinkDialog } from './LinkDialog';

type Gallery = Api['GalleryDto'];
const DAY = 24 * 60 * 60 * 1000;
/** By how much a gallery's time is made longer at a press. */
const LONGER = 14;

/** A gallery: where it is found, who was there, what they chose and said. */
export function GalleryCard({ gallery, shoot }: { gallery: Gallery; shoot: string }) {
  const { id, title, chosen, remarks, guests, becomes, other, until, madeAt, closedAt } = gallery;
  const stages = useStages();
  const { data: jobs } = useJobs();
  const [adding, setAdding] = useState(false);
  const [writing, setWriting] = useState<MessageKind | null>(null);
  const written = useMessages(gallery.shootId).data?.filter(({ galleryId }) => galleryId === id) ?? [];
  // The newest comes first, and is the last that is put in.
  const before = new Map(
    written.toReversed().flatMap(({ linkId, to }) => (linkId ? [[linkId, to] as const] : [])),
  );
  const { run, busy, error, again } = useAction((step: () => Promise<unknown>) => step());
  const running = jobs?.find((job) => job.id === gallery.jobId && isJobOpen(job));
  const now = Date.now();
  const open = isGalleryOpen(gallery, now);
  const pile = pileOfKind(becomes?.kind ?? '');
  const choice = choiceWords(gallery);
  const closing = closingWords(gallery, now);
  const differs = open ? otherWords(other) : '';
  return (
    <Box
      role="group"
      aria-label={`Gallery “${title}”`}
      sx={{ py: 1.5, borderBottom: `1px solid ${GROUND.raised}` }}
    >
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, alignItems: 'baseline' }}>
        <Box sx={{ flex: '1 1 320px' }}>
          <Box sx={{ fontWeight: 640 }}>{title}</Box>
          <Box sx={{ color: INK.soft }}>{stateWords(gallery, now)}</Box>
        </Box>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
          {differs && (
            <Button
              variant="contained"
              disabled={busy || running !== undefined}
              onClick={() => run(() => post(`/galleries/${id}/again`))}
            >
              Bring up to date
            </Button>
          )}
          {open && (
            <Button variant="outlined" color="inherit" onClick={() => setAdding(true)}>
              A link for one person …
            </Button>
          )}
          {open && (
            <Button variant="outlined" color="inherit" onClick={() => setWriting('invite')}>
              Write to them …
            </Button>
          )}
          {open && until !== null && (
            <Button
              variant="outlined"
              color="inherit"
              disabled={busy}
              onClick={() => run(() => patch(`/galleries/${id}`, { until: until + LONGER * DAY }))}
            >
              {LONGER} days longer
            </Button>
          )}
          {open ? (
            <Button
              variant="outlined"
              color="inherit"
              disabled={busy}
              onClick={() => run(() => post(`/galleries/${id}/close`))}
            >
              Close it
            </Button>
          ) : (
            <Button
              variant="outlined"
              color="inherit"
              disabled={busy}
              onClick={() => run(() => post(`/galleries/${id}/reopen`))}
            >
              Open it again
            </Button>
          )}
        </Box>
      </Box>
      {running && <JobRunning job={running} />}
      {!running && madeAt !== null && closedAt === null && gallery.made < gallery.frames && (
        <Box>{many(gallery.frames - gallery.made, 'picture')} could not be made, and is not shown.</Box>
      )}
      {differs && (
        <Box sx={{ mt: 0.5 }}>
          {differs}
          <Box sx={{ color: INK.soft }}>
            Bringing it up to date makes and takes out these; what was chosen and said stays.
          </Box>
        </Box>
      )}
      {closing && (
        <Box sx={{ mt: 0.5 }}>
          {closing}{' '}
          <Button size="small" color="inherit" variant="outlined" onClick={() => setWriting('reminder')}>
            Remind them …
          </Button>
        </Box>
      )}
      {open && (
        <Links
          gallery={gallery}
          shoot={shoot}
          onRevoke={(link) => run(() => del(`/gallery-links/${link}`))}
        />
      )}
      <Problem error={error} again={again} />
      {guests.length > 0 && (
        <Box component="ul" aria-label="Who was there" sx={{ m: 0, mt: 1, p: 0, listStyle: 'none' }}>
          {guests.map((guest) => (
            <li key={guest.id}>
              <b>{guest.name}</b> · last there {momentOf(guest.openedAt)}
              {saidByWords(guest) && ` · ${saidByWords(guest)}`}
            </li>
          ))}
        </Box>
      )}
      <MessageList messages={written} label="What they were written" />
      {guests.length === 0 && open && <Box sx={{ mt: 1, color: INK.soft }}>Nobody was there yet.</Box>}
      {choice && (
        <Box sx={{ mt: 1 }}>
          <b>{choice}</b> <span style={{ color: INK.soft }}>{becomesWords(becomes, stages)}</span>{' '}
          {pile && chosen.length > 0 && <TextLink to={`/piles/${pile}`}>Open the pile</TextLink>}
        </Box>
      )}
      {chosen.length > 0 && (
        <Box sx={{ mt: 0.5 }}>
          <FrameThumbs frames={chosen.map((frame) => thumbOf(gallery, frame))} />
        </Box>
      )}
      {remarks.length > 0 && (
        <Box component="ol" aria-label="Remarks" sx={{ m: 0, mt: 1, p: 0, listStyle: 'none' }}>
          {remarks.map((remark) => (
            <Box
              component="li"
              key={remark.id}
              sx={{ display: 'flex', gap: 1.5, alignItems: 'center', mb: 0.5 }}
            >
              <FrameThumbs frames={[thumbOf(gallery, remark)]} />
              <span>
                {remark.text}
                <Box component="span" sx={{ display: 'block', color: INK.soft }}>
                  {remark.by}, {momentOf(remark.at)}
                  {remark.x !== null && remark.y !== null && `, ${spotWords(remark.x, remark.y)}`}
                </Box>
              </span>
            </Box>
          ))}
        </Box>
      )}
      {writing && (
        <MessageDialog {...{ gallery, shoot, before, kind: writing }} onClose={() => setWriting(null)} />
      )}
      {adding && <LinkDialog galleryId={id} onClose={() => setAdding(false)} />}
    </Box>
  );
}

/** Where in a picture a remark points to. */
function spotWords(x: number, y: number): string {
  const at = (share: number, [low, high]: [string, string]) =>
    share < 1 / 3 ? low : share > 2 / 3 ? high : '';
  const where = [at(y, ['top', 'bottom']), at(x, ['left', 'right'])].filter((word) => word !== '').join(' ');
  return `at the ${where || 'middle'} of it`;
}

function thumbOf(
  { shootId }: Gallery,
  { frameId, name, picture }: Pick<Gallery['chosen'][number], 'frameId' | 'name' | 'picture'>,
) {
  const shown = { id: frameId, shootId, name, picture: picture ?? '' };
  return { ...shown, role: 'original', format: '', verdict: 'keep' } as const;
}

/** Where a gallery is found, for all and for each who has a link of their own. */
function Links({
  gallery,
  shoot,
  onRevoke,
}: {
  gallery: Gallery;
  shoot: string;
  onRevoke: (link: string) => void;
}) {
  const texts = useMessageWords();
  const { data: settings } = useSettings();
  const about = { studio: settings?.studio ?? '', creator: settings?.creator ?? '', shoot };
  return (
    <Box component="ul" aria-label="Links" sx={{ m: 0, mt: 1, p: 0, listStyle: 'none' }}>
      {gallery.links
        .filter(({ revokedAt }) => revokedAt === null)
        .map((link) => (
          <Box
            component="li"
            key={link.id}
            sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, alignItems: 'baseline' }}
          >
            <span>{link.name === '' ? 'For all' : `For ${link.name}`}:</span>
            {link.address === null ? (
              <span>its address cannot be read any more; make another link</span>
            ) : (
              <>
                <Box
                  component="a"
                  href={link.address}
                  target="_blank"
                  rel="noreferrer"
                  sx={{ ...CAPTION, color: INK.full, overflowWrap: 'anywhere' }}
                >
                  {link.address}
                </Box>
                {link.code !== null && <span>pass code {link.code}</span>}
                <span style={{ color: INK.soft }}>{rightsWords(link.rights)}</span>
                <CopyText text={link.address} say="Copy the link" />
                <CopyText
                  text={filledMessage(texts.invite, fieldsOf(gallery, link, about)).text}
                  say="Copy as a message"
                />
              </>
            )}
            <Button
              size="small"
              color="inherit"
              sx={{ px: 1, py: 0, minWidth: 0 }}
              aria-label={`Take it back: the link for ${link.name || 'all'}`}
              onClick={() => onRevoke(link.id)}
            >
              Take it back
            </Button>
          </Box>
        ))}
    </Box>
  );
}
