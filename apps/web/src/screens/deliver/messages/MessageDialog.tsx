import { Box, TextField } from '@mui/material';
import { filledMessage, isAddress, messageProblem, type MessageKind } from '@arkiv/core';
import { useState } from 'react';
import { many } from '../../../data/format';
import { post, type Api } from '../../../data/http';
import { useSettings } from '../../../data/live';
import { fieldsOf, useMailAccount, useMessageWords } from '../../../data/messages';
import { CopyText } from '../../../parts/CopyText';
import { FormDialog } from '../../../parts/FormDialog';
import { Problem } from '../../../parts/Problem';
import { useAction } from '../../../parts/useAction';
import { GROUND, INK } from '../../../theme/theme';
import { rightsWords } from '../gallery/galleryWords';
import { NoMailServer } from './NoMailServer';
import { WordsFields } from '../../../parts/WordsFields';

type Gallery = Api['GalleryDto'];

interface Props {
  gallery: Gallery;
  /** of the shoot */
  shoot: string;
  kind: MessageKind;
  /** addresses that links were sent to before, by link */
  before: ReadonlyMap<string, string>;
  onClose: () => void;
}

/** Writes to those who have a link of a gallery: whom, what, how each will read it, and only then the button. */
export function MessageDialog({ gallery, shoot, kind: first, before, onClose }: Props) {
  const links = gallery.links.filter(({ revokedAt, address }) => revokedAt === null && address !== null);
  const texts = useMessageWords();
  const { data: settings } = useSettings();
  const { data: account } = useMailAccount();
  const [kind, setKind] = useState(first);
  const [written, setWritten] = useState<typeof texts.invite | null>(null);
  const words = written ?? texts[kind];
  const [to, setTo] = useState<Record<string, string>>(() =>
    Object.fromEntries(links.map(({ id, email }) => [id, email || (before.get(id) ?? '')])),
  );
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [read, setRead] = useState<string | null>(null);
  const wanted = links.filter(({ id }) => !left.has(id) && to[id]!.trim() !== '');
  const shown = wanted.find(({ id }) => id === read) ?? wanted[0] ?? links[0];
  const about = { studio: settings?.studio ?? '', creator: settings?.creator ?? '', shoot };
  const filled = (link: Gallery['links'][number]) => filledMessage(words, fieldsOf(gallery, link, about));
  const wrong = wanted.filter(({ id }) => !isAddress(to[id]!.trim()));
  const ready =
    wanted.length > 0 && wrong.length === 0 && messageProblem(words) === null && account?.host !== '';
  const { run, busy, error, again } = useAction(async () => {
    await post(`/galleries/${gallery.id}/messages`, {
      kind,
      messages: wanted.map((link) => ({ ...filled(link), linkId: link.id, to: to[link.id]!.trim() })),
    });
    onClose();
  });
  const preview = shown && filled(shown);
  return (
    <FormDialog
      title="Write to the client"
      deed={wanted.length === 0 ? 'Send' : `Send ${many(wanted.length, 'message')}`}
      width="lg"

      onSubmit={() => run()}
      {...{ ready, busy, onClose }}
    >
      <NoMailServer />
      <Box
        component="ul"
        aria-label="To"
        sx={{ m: 0, mt: 1, p: 0, listStyle: 'none', display: 'grid', gap: 1 }}
      >
        {links.map((link, i) => (
          <Box
            component="li"
            key={link.id}
            sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'center' }}
          >
            <label style={{ display: 'flex', gap: 8, alignItems: 'center', minWidth: 190 }}>
              <input
                type="checkbox"
                style={{ accentColor: INK.full }}
                checked={!left.has(link.id)}
                onChange={() => setLeft((now) => toggled(now, link.id))}
              />
              {link.name || 'Whoever has the link'}
            </label>
            <TextField
              label={`Address${link.name && ` of ${link.name}`}`}
              type="email"
              value={to[link.id]}
              autoFocus={i === 0}
              disabled={left.has(link.id)}
              error={wrong.some(({ id }) => id === link.id)}
              onFocus={() => setRead(link.id)}
              onChange={(event) => setTo((now) => ({ ...now, [link.id]: event.target.value }))}
              sx={{ flex: '1 1 240px' }}
              slotProps={{ htmlInput: { maxLength: 254 }, inputLabel: { shrink: true } }}
            />
            <Box sx={{ color: INK.soft, flex: '1 1 200px' }}>{rightsWords(link.rights)}</Box>
          </Box>
        ))}
      </Box>
      <Box sx={{ display: 'grid', gap: 2, gridTemplateColumns: { md: '1fr 1fr' }, alignItems: 'start' }}>
        <Box sx={{ display: 'grid', gap: 2 }}>
          <TextField
            select
            label="It is"
            value={kind}
            onChange={(event) => {
              setKind(event.target.value as MessageKind);
              setWritten(null);
            }}
            slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          >
            <option value="invite">an invitation</option>
            <option value="reminder">a word before it closes</option>
          </TextField>
          <WordsFields words={words} onChange={setWritten} />
        </Box>
        {preview && (
          <Box
            role="group"
            aria-label={`As ${shown.name || 'they'} will read it`}
            sx={{ p: 1.5, border: `1px solid ${GROUND.line}` }}
          >
            <b>{preview.subject}</b>
            <Box sx={{ whiteSpace: 'pre-wrap', overflowWrap: 'anywhere', mt: 1 }}>{preview.text}</Box>
            <CopyText text={preview.text} say="Copy the words" />
          </Box>
        )}
      </Box>
      <Problem error={error} again={again} />
    </FormDialog>
  );
}

function toggled(all: ReadonlySet<string>, id: string): ReadonlySet<string> {
  const next = new Set(all);
  if (!next.delete(id)) next.add(id);
  return next;
}
