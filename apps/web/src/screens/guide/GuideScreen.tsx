import { Box } from '@mui/material';
import type { MouseEvent } from 'react';
import { useNavigate, useParams } from 'react-router';
import useSWR from 'swr';
import { useBindings } from '../../data/bindings';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { TextLink } from '../../parts/TextLink';
import { useScreenTitle } from '../../parts/screenTitle';
import { GROUND, INK } from '../../theme/theme';
import { guideHtml } from './guideHtml';
import { GUIDE_LIST } from './guideOf';
import { guidePicture, guideText } from './guidePages';

/** A page of the guide, with the keys as they are bound now. */
export function GuideScreen() {
  const { page = GUIDE_LIST } = useParams();
  const navigate = useNavigate();
  const bindings = useBindings();
  const text = guideText(page);
  const { data, error } = useSWR(text && `guide ${page}`, () => text!);
  useScreenTitle('Guide');
  const follow = (event: MouseEvent) => {
    const href = (event.target as Element).closest('a')?.getAttribute('href');
    // Another tab is the browser's business.
    if (!href || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    void navigate(href);
  };
  return (
    <Box component="main" key={page} sx={{ overflow: 'auto', px: { xs: 2, md: 4 }, py: 3 }}>
      <Box sx={{ maxWidth: 760, mx: 'auto' }}>
        {page !== GUIDE_LIST && <TextLink to={`/guide/${GUIDE_LIST}`}>All pages of the guide</TextLink>}
        <Problem error={error} />
        {text === null && <h1>There is no such page in the guide</h1>}
        {text !== null && data === undefined && !error && <Loading what="the page" />}
        {data !== undefined && (
          <Box
            component="article"
            sx={PROSE}
            onClick={follow}
            // Text of the program's own, which nobody else writes into.
            dangerouslySetInnerHTML={{ __html: guideHtml(data, { bindings, picture: guidePicture }) }}
          />
        )}
      </Box>
    </Box>
  );
}

const PROSE = {
  lineHeight: 1.6,
  '& h1': { fontSize: 28, lineHeight: 1.2, mt: 1.5, mb: 1.5 },
  '& p, & ul, & ol': { mt: 0, mb: 1.75, maxWidth: 700 },
  '& ul, & ol': { pl: 3 },
  '& li': { mb: 0.75 },
  '& a': { color: INK.full },
  '& strong': { fontWeight: 660 },
  '& img': { width: '100%', height: 'auto', border: `1px solid ${GROUND.line}`, my: 0.5 },
  '& code': { bgcolor: GROUND.raised, px: 0.5, fontSize: '0.92em' },
  '& kbd': {
    ...{ font: 'inherit', fontWeight: 640, fontStretch: '85%', px: 0.75, border: `1px solid ${GROUND.line}` },
    bgcolor: GROUND.raised,
  },
};
