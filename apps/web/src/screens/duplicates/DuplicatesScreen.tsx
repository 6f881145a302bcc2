import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { bytes, many } from '../../data/format';
import { useDuplicates } from '../../data/live';
import { GrowingPages, type PageAsked } from '../../parts/GrowingPages';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { TextLink } from '../../parts/TextLink';
import { DuplicateGroup } from './DuplicateGroup';
import { goingBeside, stayingOf } from './staying';

/** Frames that hold equal content, anywhere in the archive: where each of them is, and one of them alone where that is wanted. */
export function DuplicatesScreen() {
  return (
    <Page
      title="Duplicates"
      actions={<TextLink to="/variants">Variants</TextLink>}
      lead="Frames whose files are equal, byte for byte. Nothing is done by itself. What goes into the bin stays in each drive’s bin until you empty it."
    >
      <Box sx={{ maxWidth: 1080 }}>
        <GrowingPages page={(asked) => <DuplicatesPage {...asked} />} />
      </Box>
    </Page>
  );
}

function DuplicatesPage({ after, isFirst, onMore }: PageAsked) {
  const { data, error, mutate } = useDuplicates(after);
  const [gone, setGone] = useState('');
  if (!data)
    return (
      <>
        <Problem error={error} />
        {!error && <Loading what="what is there twice" />}
      </>
    );
  const { groups, next } = data;
  const freed = groups
    .flatMap(({ frames }) => goingBeside(frames, stayingOf(frames).id))
    .reduce((sum, frame) => sum + frame.bytes, 0);
  return (
    <>
      {isFirst && (
        <Typography role="status" sx={{ color: 'text.secondary', mb: 2 }}>
          {groups.length === 0
            ? 'No two frames of the archive hold equal content.'
            : `${next === null ? '' : 'The first '}${many(groups.length, 'content is', 'contents are')} there more than once. With one frame of each, ${bytes(freed)} would be free once the bin is emptied.`}
        </Typography>
      )}
      {gone !== '' && (
        <Box role="status" sx={{ mb: 2 }}>
          {gone} <TextLink to="/bin">Bring it back from the bin</TextLink>
        </Box>
      )}
      {groups.map((group) => (
        <DuplicateGroup
          key={group.id}
          group={group}
          onDone={(words) => {
            setGone(words);
            void mutate();
          }}
        />
      ))}
      {next !== null && onMore && (
        <Button color="inherit" sx={{ ml: -1 }} onClick={() => onMore(next)}>
          Show more
        </Button>
      )}
    </>
  );
}
