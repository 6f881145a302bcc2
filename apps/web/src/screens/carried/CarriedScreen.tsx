import { Box } from '@mui/material';
import { useParams } from 'react-router';
import { shownName } from '@arkiv/core';
import { many } from '../../data/format';
import type { Api } from '../../data/http';
import { labelNames } from '../../data/labels';
import { isOpen, useJobs, useSettings } from '../../data/live';
import { useStages } from '../../data/stages';
import { useGet } from '../../data/useGet';
import { JobRunning } from '../../parts/JobRunning';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { INK } from '../../theme/theme';
import { cameWords, kindWords, valueWords, type Names } from './bothWords';

/** What came of taking in shoots of another archive: how much, and what was decided on both sides. */
export function CarriedScreen() {
  const { jobId = '' } = useParams();
  const { data: jobs, error } = useJobs();
  const job = jobs?.find(({ id }) => id === jobId);
  const over = jobs !== undefined && (!job || !isOpen(job));
  const result = useGet(over ? `/carried/results/${jobId}` : null);
  return (
    <Page
      title="From another archive"
      lead={job ? shownName(job.title) : 'Shoots that came on a drive, with what was decided of them there.'}
    >
      <Problem error={error ?? result.error} />
      {!over && !job && !error && <Loading what="what is under way" />}
      {job && isOpen(job) && <JobRunning job={job} />}
      {job && job.filesFailed > 0 && (
        <Box>
          {many(job.filesFailed, 'shoot')} could not be read whole: {shownName(job.trouble ?? '')} Nothing of{' '}
          {job.filesFailed === 1 ? 'it' : 'them'} is written over; try again under Jobs.
        </Box>
      )}
      {result.data && <Came {...result.data} />}
    </Page>
  );
}

function Came({ shoots, frames, decisions, missing, both }: Api['CarryResultDto']) {
  const names: Names = { labels: labelNames(useSettings().data), stages: useStages() };
  return (
    <>
      <Box sx={{ mb: 2 }}>
        {cameWords({ shoots, frames, decisions })}{' '}
        {missing > 0 &&
          `${many(missing, 'file is', 'files are')} not where they were on the drive; the Desk names it. `}
        <TextLink to="/">To the Desk</TextLink>
      </Box>
      <Section title={both.length === 0 ? 'Nothing was decided on both sides' : 'Decided on both sides'}>
        {both.length > 0 && (
          <>
            <Box sx={{ color: INK.soft, mb: 1 }}>
              The later one holds; both are in the history of the shoot. To take the other, mark the frame.
            </Box>
            <Box component="table" sx={{ borderCollapse: 'collapse', '& td, & th': CELL }}>
              <thead>
                <tr>
                  <th>Frame</th>
                  <th>What</th>
                  <th>Here</th>
                  <th>There</th>
                  <th>Holds</th>
                </tr>
              </thead>
              <tbody>
                {both.map(({ shootId, subject, name, kind, here, there, stands }) => (
                  <tr key={`${subject} ${kind}`}>
                    <td>
                      <TextLink to={`/shoots/${shootId}/cull?frame=${subject}`}>{shownName(name)}</TextLink>
                    </td>
                    <td>{kindWords(kind)}</td>
                    <td>{valueWords(kind, here, names)}</td>
                    <td>{valueWords(kind, there, names)}</td>
                    <td>{stands === 'here' ? 'what was decided here' : 'what was decided there'}</td>
                  </tr>
                ))}
              </tbody>
            </Box>
          </>
        )}
      </Section>
    </>
  );
}

const CELL = {
  ...{ textAlign: 'left', fontWeight: 400, pr: 3, py: 0.5, verticalAlign: 'top' },
  borderBottom: '1px solid',
  borderColor: 'divider',
  overflowWrap: 'anywhere',
} as const;
