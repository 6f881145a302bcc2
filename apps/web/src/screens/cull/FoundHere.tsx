import { Box } from '@mui/material';
import { useAlbums } from '../../data/albums';
import { findAddress, questionOf } from '../../data/findQuestion';
import { count } from '../../data/format';
import { foundText, MOST_LOOKED_AT } from '../../data/frameSource';
import { useScreenTitle } from '../../parts/screenTitle';
import { TextLink } from '../../parts/TextLink';
import { CAPTION, GROUND, INK } from '../../theme/theme';

export function FoundTitle({ id }: { id: string }) {
  const { album } = questionOf(foundText(id));
  const { tree } = useAlbums();
  const name = album === undefined ? undefined : tree.get(album)?.name;
  useScreenTitle(`Cull · ${name ?? 'found'}`);
  return null;
}

/** Of what the frames were found by, and the way back to it. */
export function FoundLine({ id, frames }: { id: string; frames: number }) {
  const text = foundText(id);
  const question = questionOf(text);
  const { line, like, album } = question;
  const { tree } = useAlbums();
  const name = album === undefined ? undefined : (tree.get(album)?.name ?? 'an album');
  const words = [
    ...(line.trim() === '' ? [] : [`“${line.trim()}”`]),
    ...(like === undefined ? [] : ['what looks like one picture']),
  ];
  return (
    <Box
      component="section"
      aria-label="What was found"
      sx={{
        ...CAPTION,
        display: 'flex',
        flexWrap: 'wrap',
        gap: 2,
        px: 2,
        py: 0.75,
        bgcolor: GROUND.base,
        borderBottom: `1px solid ${GROUND.line}`,
        color: INK.soft,
      }}
    >
      <span>
        {name !== undefined && `Album “${name}”${words.length > 0 ? ', ' : ''}`}
        {words.length > 0
          ? `${name === undefined ? 'Found' : 'found'} by ${words.join(' and ')}`
          : name === undefined && 'Found in the whole archive'}
        : {count(frames)} {frames === 1 ? 'frame' : 'frames'}
        {frames >= MOST_LOOKED_AT ? ', the first of more' : ''}. {marksWords}
      </span>
      <TextLink to={findAddress(question)}>
        {name === undefined ? 'Back to Find' : 'Back to the album'}
      </TextLink>
    </Box>
  );
}
const marksWords = 'Marks go to the frames in their own shoots.';
