import { Button, Typography } from '@mui/material';
import { many } from '../../data/format';
import { useVariants } from '../../data/live';
import { GrowingPages, type PageAsked } from '../../parts/GrowingPages';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { TextLink } from '../../parts/TextLink';
import { VariantGroup } from './VariantGroup';

/** Frames that are one picture, processed in several ways, anywhere in the archive: each stays, as one take where that is wanted. */
export function VariantsScreen() {
  return (
    <Page
      title="Variants"
      lead="One picture several times: cropped, in black and white, made small, in another format. Nothing is moved or removed here."
      actions={<TextLink to="/duplicates">Duplicates</TextLink>}
    >
      <GrowingPages page={(asked) => <VariantsPage {...asked} />} />
    </Page>
  );
}

function VariantsPage({ after, isFirst, onMore }: PageAsked) {
  const { data, error, mutate } = useVariants(after);
  if (!data)
    return (
      <>
        <Problem error={error} />
        {!error && <Loading what="pictures that are there in several ways" />}
      </>
    );
  const { groups, waiting, next } = data;
  const rest = next === null ? '' : ' so far';
  return (
    <>
      {isFirst && (
        <Typography role="status" sx={{ color: 'text.secondary', mb: 2 }}>
          {groups.length === 0
            ? `No picture was found in several ways${rest}.`
            : `${many(groups.length, 'picture is', 'pictures are')} there in several ways${rest}.`}
        </Typography>
      )}
      {waiting > 0 && (
        <Typography role="status" sx={{ mb: 2 }}>
          {many(waiting, 'picture is', 'pictures are')} looked at now: what they show is known in a while.
          <Button color="inherit" size="small" sx={{ ml: 1 }} onClick={() => void mutate()}>
            Look again
          </Button>
        </Typography>
      )}
      {groups.map((group) => (
        <VariantGroup key={group.id} group={group} onDone={() => void mutate()} />
      ))}
      {next !== null && onMore && (
        <Button color="inherit" sx={{ ml: -1 }} onClick={() => onMore(next)}>
          {groups.length === 0 ? 'Look further' : 'Show more'}
        </Button>
      )}
    </>
  );
}
