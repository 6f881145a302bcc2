import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { useParams } from 'react-router';
import { shownName } from '@arkiv/core';
import { count, many } from '../../data/format';
import { post, type Api } from '../../data/http';
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
import { useAction } from '../../parts/useAction';
import { INK } from '../../theme/theme';
import { cameWords, kindWords, placeWords, valueWords, type Names } from './bothWords';

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
      {result.data && <Came jobId={jobId} result={result.data} onDone={result.mutate} />}
    </Page>
  );
}

/** Names of frames that are listed before all others are counted. */
const NAMED = 12;

/** What was done with files there, and is not done here: at a press it is. */
function There({
  title,
  what,
  names,
  deed,
  at,
  onDone,
}: {
  title: string;
  what: string;
  names: readonly string[];
  deed: string;
  at: () => Promise<Api['FollowedDto']>;
  onDone: () => unknown;
}) {
  const [said, setSaid] = useState('');
  const { run, busy, error, again } = useAction(async () => {
    const { jobIds, stay } = await at();
    setSaid(
      stay > 0
        ? `${many(stay, 'frame stays', 'frames stay')}: another frame is called so here`
        : jobIds.length > 0
          ? 'Begun: see Jobs'
          : 'Nothing is left to do',
    );
    await onDone();
  });
  return (
    <Section title={title}>
      <Box sx={{ color: INK.soft, mb: 1 }}>{what}</Box>
      <Box sx={{ mb: 1.5, overflowWrap: 'anywhere' }}>
        {names.slice(0, NAMED).map(shownName).join(', ')}
        {names.length > NAMED && ` and ${count(names.length - NAMED)} more`}
      </Box>
      <Button variant="outlined" color="inherit" aria-busy={busy} onClick={() => !busy && run()}>
        {deed}
      </Button>
      <Box role="status" sx={{ color: INK.soft, mt: 0.5 }}>
        {said}
      </Box>
      <Problem error={error} again={again} />
    </Section>
  );
}

function Came({
  jobId,
  result: { shoots, frames, decisions, missing, both, named, out },
  onDone,
}: {
  jobId: string;
  result: Api['CarryResultDto'];
  onDone: () => unknown;
}) {
  const names: Names = { labels: labelNames(useSettings().data), stages: useStages() };
  return (
    <>
      <Box sx={{ mb: 2 }}>
        {cameWords({ shoots, frames, decisions })}{' '}
        {missing > 0 &&
          `${many(missing, 'file is', 'files are')} not where they were on the drive; the Desk names it. `}
        <TextLink to="/">To the Desk</TextLink>
      </Box>
      {named.length > 0 && (
        <There
          title="Set aside, or named otherwise, on the way"
          what="On the drive that came they lie where they were put there; here they are called and lie as before."
          names={named.map(placeWords)}
          deed={`Do it here too: ${many(named.length, 'frame')}`}
          at={() => post(`/carried/results/${jobId}/names`)}
          onDone={onDone}
        />
      )}
      {out.length > 0 && (
        <There
          title="Taken out on the way"
          what="They were binned or deleted there. Here they are with all their files, and stay until you say so."
          names={out.map(({ name }) => name)}
          deed={`Into the bin here too: ${many(out.length, 'frame')}`}
          at={() => post(`/carried/results/${jobId}/bin`)}
          onDone={onDone}
        />
      )}
      <Section title={both.length === 0 ? 'Nothing was decided on both sides' : 'Decided on both sides'}>
        {both.length > 0 && (
          <>
            <Box sx={{ color: INK.soft, mb: 1 }}>
              The later one holds; both are in the history of the shoot. To take the other, mark the frame.
            </Box>
            <Box component="table" sx={{ borderCollapse: 'collapse', '& td, & th': CELL }}>
              <thead>
                <tr>
                  <th>Frame or shoot</th>
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
                      <TextLink
                        to={
                          subject === shootId
                            ? `/shoots/${shootId}/files`
                            : `/shoots/${shootId}/cull?frame=${subject}`
                        }
                      >
                        {shownName(name)}
                      </TextLink>
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
