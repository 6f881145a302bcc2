import { Box, Checkbox, FormControlLabel, Typography } from '@mui/material';
import { useState } from 'react';
import { bytes as bytesWords, many } from '../../data/format';
import type { Api } from '../../data/http';
import { Section } from '../../parts/Section';
import { CAPTION, INK } from '../../theme/theme';
import { MoveOutcome } from './MoveOutcome';
import { moveNow, useMovePlan, type MoveRequest } from './useMove';

type Plan = Api['MovePlanDto'];

interface Props {
  shoot: Api['ShootDto'];
  /** another one whenever frames were moved */
  moves: string;
}

/** Rejects into the shoot's folder for them, and back. Nothing is deleted. */
export const AsidePart = (props: Props) => (
  <Section title="Rejects" folded="files.rejects">
    <Aside {...props} />
  </Section>
);

function Aside({ shoot, moves }: Props) {
  const [undecided, setUndecided] = useState(false);
  // After a mark or a move the same question has another answer.
  const at = `${shoot.keepers} ${shoot.rejects} ${shoot.frames} ${moves}`;
  const aside: MoveRequest = { kind: 'aside', shootId: shoot.id, undecided, rename: false };
  const back: MoveRequest = { kind: 'back', shootId: shoot.id, rename: false };
  const out = useMovePlan(aside, at);
  const there = useMovePlan(back, at);
  const left = shoot.frames - shoot.keepers - shoot.rejects;
  return (
    <>
      <Typography sx={{ color: 'text.secondary' }}>
        Set aside, they lie in <Folder name={shoot.rejectsFolder} /> beside the originals, on every drive, and
        stay in the archive with their marks. Nothing is deleted.
      </Typography>
      {left > 0 && (
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              color="default"
              checked={undecided}
              onChange={(_, on) => setUndecided(on)}
            />
          }
          label={`also ${many(left, 'frame')} that ${left === 1 ? 'is' : 'are'} undecided`}
        />
      )}
      <MoveOutcome
        plan={out.plan}
        error={out.error}
        words={out.plan && out.plan.frames > 0 ? `Set ${many(out.plan.frames, 'frame')} aside` : 'Set aside'}
        none={
          undecided
            ? 'No reject and nothing undecided lies among the originals.'
            : 'No reject lies among the originals.'
        }
        about={out.plan ? aboutOf(out.plan) : ''}
        run={() => moveNow(aside)}
      />
      {there.plan && there.plan.files > 0 && (
        <Box sx={{ mt: 2 }}>
          <MoveOutcome
            plan={there.plan}
            error={there.error}
            words={`Bring ${many(there.plan.frames, 'frame')} back`}
            about={`${many(there.plan.frames, 'frame')} set aside, ${bytesWords(there.plan.bytes)}.`}
            run={() => moveNow(back)}
          />
        </Box>
      )}
    </>
  );
}

const Folder = ({ name }: { name: string }) => (
  <Box component="span" sx={{ ...CAPTION, color: INK.full }}>
    {name}/
  </Box>
);

/** How much it is, where it lies, and who has it already. */
function aboutOf({ frames, bytes, volumes, handedOff, delivered }: Plan): string {
  if (frames === 0) return '';
  const said = [`${bytesWords(bytes)} on each of ${volumes.map((name) => `“${name}”`).join(' and ')}.`];
  if (handedOff > 0)
    said.push(`${many(handedOff, 'frame')} of them went to hand-off: their copies there stay.`);
  if (delivered > 0) said.push(`${many(delivered, 'frame')} of them were delivered.`);
  return said.join(' ');
}
