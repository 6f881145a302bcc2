import { Box } from '@mui/material';
import { useState } from 'react';
import { shownName } from '@arkiv/core';
import { many } from '../../data/format';
import type { Api } from '../../data/http';
import { useSettings } from '../../data/live';
import { Loading } from '../../parts/Loading';
import { Section } from '../../parts/Section';
import { Tick } from '../../parts/Tick';
import { INK } from '../../theme/theme';
import { FrameNames } from './FrameNames';
import { MoveOutcome } from './MoveOutcome';
import { moveNow, useMovePlan, type MoveRequest } from './useMove';

/** A shoot whose pictures lie in an adopted folder, into the archive's own dated folders. */
export const TakeInPart = ({ shoot }: { shoot: Api['ShootDto'] }) => (
  <Section title="Take in" folded="files.takeIn">
    <TakesIn shoot={shoot} />
  </Section>
);

/** Asked for only while it is unfolded. */
function TakesIn({ shoot }: { shoot: Api['ShootDto'] }) {
  const { data: settings } = useSettings();
  return settings ? (
    <Wanted shoot={shoot} studio={settings.pattern} />
  ) : (
    <Loading what="the studio’s names" />
  );
}

function Wanted({ shoot, studio }: { shoot: Api['ShootDto']; studio: string }) {
  const [rename, setRename] = useState(true);
  const [pattern, setPattern] = useState(studio);
  const [seqStart, setStart] = useState(1);
  const asked: MoveRequest = {
    ...{ kind: 'takeIn', shootId: shoot.id, rename },
    ...(rename && { pattern, seqStart }),
  };
  const { plan, error } = useMovePlan(
    asked,
    `${shoot.title} ${shoot.client} ${shoot.place} ${shoot.frames} ${shoot.folders.join('/')}`,
  );
  return (
    <>
      <Box sx={{ color: INK.soft, mb: 1.5 }}>
        Its files lie in an adopted folder. Taken in, they move to{' '}
        {plan && plan.folders.length > 0 ? (
          <Folders folders={plan.folders} />
        ) : (
          'dated folders of the archive'
        )}{' '}
        on the drive that they lie on, with what other programs keep of them. From then on each frame has its
        sidecar, and copies on as many drives as the studio asks for. All else in the adopted folder stays.
      </Box>
      <Tick checked={rename} onChange={setRename}>
        name the frames anew; the names that they have stay in their sidecars
      </Tick>
      {rename && (
        <Box sx={{ mt: 1.5 }}>
          <FrameNames
            {...{ pattern, plan }}
            start={seqStart}
            onPattern={setPattern}
            onStart={setStart}
            none="As the studio names frames."
          />
        </Box>
      )}
      <MoveOutcome
        plan={plan}
        error={error}
        words={`Take in ${many(plan?.frames || shoot.frames, 'frame')}`}
        run={() => moveNow(asked)}
      />
    </>
  );
}

/** Folders named in a sentence: more than two are counted. */
function Folders({ folders }: { folders: readonly string[] }) {
  const [first, ...others] = folders;
  return (
    <>
      “{shownName(first!)}”{others.length > 0 && ` and ${many(others.length, 'further folder')}`}
    </>
  );
}
