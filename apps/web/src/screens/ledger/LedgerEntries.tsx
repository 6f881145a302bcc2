import { Box, Button } from '@mui/material';
import { many, mediumDay, momentOf } from '../../data/format';
import { del, type Api } from '../../data/http';
import { ledgerList, useLedger, type LedgerShown } from '../../data/ledger';
import { saidByWords } from '../../data/saidBy';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { TextLink } from '../../parts/TextLink';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK } from '../../theme/theme';

/** What went out, the newest first; `of`: whose entries they are, in words. */
export function LedgerEntries({ shown, of }: { shown: LedgerShown; of: string }) {
  const { data: pages, error, setSize, isValidating } = useLedger(shown);
  const entries = pages?.flatMap((page) => page.entries);
  const more = pages?.at(-1)?.next !== null;
  return (
    <Box>
      <Problem error={error} />
      {!entries && !error && <Loading what="the ledger" />}
      {entries?.length === 0 && <Box sx={{ color: INK.soft }}>Nothing went out {of} yet.</Box>}
      {entries && entries.length > 0 && (
        <>
          <Box role="list" aria-label={`What went out ${of}`}>
            {entries.map((entry) => (
              <Entry key={entry.id} entry={entry} withShoot={shown.shootId === undefined} />
            ))}
          </Box>
          <Box sx={{ display: 'flex', gap: 1, mt: 1.5 }}>
            {more && (
              <Button
                color="inherit"
                variant="outlined"
                disabled={isValidating}
                onClick={() => void setSize((now) => now + 1)}
              >
                Show earlier ones
              </Button>
            )}
            <Button color="inherit" href={ledgerList(shown)} download>
              List of all files as CSV
            </Button>
          </Box>
        </>
      )}
    </Box>
  );
}

/** What stands before the name of something that went out. */
const BEFORE_NAME = { set: '', posting: 'Posted: ', mail: 'Beside a message to ', gallery: 'Gallery: ' };

function Entry({ entry, withShoot }: { entry: Api['LedgerEntryDto']; withShoot: boolean }) {
  const { kind, name, at, shoot, shootId, client, frames, files, forms, sentTo, people } = entry;
  const isAgain = entry.again;
  const { run, busy, error, again } = useAction(() => del(`/ledger/postings/${entry.id}`));
  return (
    <Box
      role="listitem"
      sx={{ display: 'flex', gap: 2, alignItems: 'start', py: 1, borderBottom: `1px solid ${GROUND.raised}` }}
    >
      <Box sx={{ width: 110, flex: 'none', color: INK.soft }}>
        {mediumDay(new Date(at).toISOString().slice(0, 10))}
      </Box>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Box>
          <b>{`${BEFORE_NAME[kind]}${name}`}</b>
          {isAgain && (
            <Box component="span" sx={{ color: INK.soft }}>
              , brought up to date
            </Box>
          )}
          {withShoot && (
            <>
              {' · '}
              <TextLink to={`/shoots/${shootId}/deliver`}>{shoot}</TextLink>
              {client && (
                <Box component="span" sx={{ color: INK.soft }}>
                  {' '}
                  for {client}
                </Box>
              )}
            </>
          )}
        </Box>
        {forms.map((form) => (
          <Box key={form} sx={{ ...CAPTION, color: INK.soft }}>
            {form}
          </Box>
        ))}
        {sentTo.length > 0 && <Box sx={{ ...CAPTION, color: INK.soft }}>arrived at {sentTo.join(', ')}</Box>}
        {people.map((person, i) => (
          <Box key={`${i} ${person.name}`} sx={{ ...CAPTION, color: INK.soft }}>
            {[
              person.name,
              person.openedAt !== null && `last there ${momentOf(person.openedAt)}`,
              saidByWords(person),
            ]
              .filter((words) => words)
              .join(' · ')}
          </Box>
        ))}
        <Problem error={error} again={again} />
      </Box>
      <Box sx={{ flex: 'none', color: INK.soft, textAlign: 'right' }}>
        {many(frames, 'frame')}
        {kind === 'set' && files !== frames && `, ${many(files, 'file')}`}
        {kind === 'gallery' && files > 0 && `, ${many(files, 'file')} taken along`}
      </Box>
      {kind === 'posting' && (
        <Button
          size="small"
          color="inherit"
          disabled={busy}
          onClick={() => run()}
          aria-label={`Take out “${name}”`}
        >
          Take out
        </Button>
      )}
    </Box>
  );
}
