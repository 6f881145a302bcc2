import { Box, Button, Checkbox, FormControlLabel, Radio, RadioGroup, Typography } from '@mui/material';
import { useState, type ReactNode } from 'react';
import { bytes as bytesWords, many } from '../../data/format';
import { post, type Api } from '../../data/http';
import { jobEnd } from '../../data/jobEnd';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { TypedNumber } from '../../parts/TypedNumber';
import { useAction } from '../../parts/useAction';
import { CAPTION, INK } from '../../theme/theme';
import { MoveOutcome } from './MoveOutcome';
import { moveNow, useBinPlan, useMovePlan, type MoveRequest } from './useMove';

type Deed = 'aside' | Api['BinRequestDto']['deed'];

interface Props {
  shoot: Api['ShootDto'];
  /** another one whenever frames were moved */
  moves: string;
}

/** What becomes of rejects: from lying beside the originals to being deleted, each said before it is done. */
export const RejectsPart = (props: Props) => (
  <Section title="Rejects" folded="files.rejects" aside={<TextLink to="/bin">Bin</TextLink>}>
    <Rejects {...props} />
  </Section>
);

function Rejects({ shoot, moves }: Props) {
  const [deed, setDeed] = useState<Deed>('aside');
  const [undecided, setUndecided] = useState(false);
  // After a mark or a move the same question has another answer.
  const at = `${shoot.keepers} ${shoot.rejects} ${shoot.frames} ${moves}`;
  const left = shoot.frames - shoot.keepers - shoot.rejects;
  return (
    <>
      <RadioGroup
        aria-label="What becomes of them"
        value={deed}
        onChange={(_, chosen) => setDeed(chosen as Deed)}
        sx={{ gap: 0.5 }}
      >
        <Choice
          value="aside"
          words="Set aside"
          said={
            <>
              They lie in <Folder name={shoot.rejectsFolder} /> beside the originals and stay in the archive.
            </>
          }
        />
        <Choice
          value="bin"
          words="Put into the bin"
          said="They leave the archive. Each drive keeps its files in its bin until you empty it."
        />
        <Choice
          value="forget"
          words="Forget, and leave the files"
          said="They leave the archive. No file is moved or deleted."
        />
        <Choice
          value="delete"
          words="Delete"
          said="Their files are deleted on every drive. There is no way back."
        />
      </RadioGroup>
      {left > 0 && (
        <FormControlLabel
          sx={{ mt: 1 }}
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
      {deed === 'aside' ? (
        <Aside shoot={shoot} undecided={undecided} at={at} />
      ) : (
        <Out key={deed} deed={deed} shootId={shoot.id} undecided={undecided} at={at} />
      )}
    </>
  );
}

const Choice = ({ value, words, said }: { value: Deed; words: string; said: ReactNode }) => (
  <FormControlLabel
    value={value}
    control={<Radio size="small" color="default" sx={{ py: 0.25 }} />}
    sx={{ alignItems: 'flex-start', mr: 0 }}
    label={
      <Box sx={{ pt: 0.25 }}>
        <Box component="span" sx={{ fontWeight: 560 }}>
          {words}.
        </Box>{' '}
        <Box component="span" sx={{ color: INK.soft }}>
          {said}
        </Box>
      </Box>
    }
  />
);

interface Part {
  undecided: boolean;
  at: string;
}

/** Rejects into the shoot's folder for them, and back. */
function Aside({ shoot, undecided, at }: Part & { shoot: Api['ShootDto'] }) {
  const aside: MoveRequest = { kind: 'aside', shootId: shoot.id, undecided, rename: false };
  const back: MoveRequest = { kind: 'back', shootId: shoot.id, rename: false };
  const out = useMovePlan(aside, at);
  const there = useMovePlan(back, at);
  return (
    <>
      <MoveOutcome
        plan={out.plan}
        error={out.error}
        words={out.plan && out.plan.frames > 0 ? `Set ${many(out.plan.frames, 'frame')} aside` : 'Set aside'}
        none={
          undecided
            ? 'No reject and nothing undecided lies among the originals.'
            : 'No reject lies among the originals.'
        }
        about={out.plan && out.plan.frames > 0 ? touchedWords(out.plan) : ''}
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

/** Out of the archive: into the bin, forgotten, or deleted. */
function Out({ deed, shootId, undecided, at }: Part & { deed: Exclude<Deed, 'aside'>; shootId: string }) {
  const asked = { deed, shootId, undecided };
  const { plan, error } = useBinPlan(asked, at);
  const {
    run,
    busy,
    error: trouble,
    again,
  } = useAction(async (typed?: number) => {
    await jobEnd((await post('/bin', typed === undefined ? asked : { ...asked, typed })).jobId);
  });
  const none = plan?.frames === 0;
  const frames = plan ? many(plan.frames, 'frame') : '';
  const said =
    plan && !none ? `${frames}, ${many(plan.files, 'file')} with their sidecars. ${touchedWords(plan)}` : '';
  return (
    <Box sx={{ mt: 1 }}>
      {none && (
        <Typography sx={{ color: 'text.secondary' }}>
          {undecided ? 'No reject and nothing undecided is in the shoot.' : 'No reject is in the shoot.'}
        </Typography>
      )}
      {plan && !none && deed === 'delete' && (
        <TypedNumber
          key={plan.frames}
          frames={plan.frames}
          said={`${said} They cannot be brought back.`}
          busy={busy}
          onDelete={run}
        />
      )}
      {plan && !none && deed !== 'delete' && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
          <Box sx={{ flex: 1, color: INK.soft }}>{said} It can be undone.</Box>
          <Button variant="outlined" color="inherit" disabled={busy} onClick={() => run()}>
            {busy ? 'Under way …' : deed === 'bin' ? `Put ${frames} into the bin` : `Forget ${frames}`}
          </Button>
        </Box>
      )}
      <Problem error={error} />
      <Problem error={trouble} again={again} />
    </Box>
  );
}

const Folder = ({ name }: { name: string }) => (
  <Box component="span" sx={{ ...CAPTION, color: INK.full }}>
    {name}/
  </Box>
);

/** How much it is, where it lies, and who has it already. */
function touchedWords({
  bytes,
  volumes,
  away,
  handedOff,
  delivered,
}: Omit<Api['BinPlanDto'], 'frames' | 'files'>): string {
  const named = (names: readonly string[]) => names.map((name) => `“${name}”`).join(' and ');
  const said = [`${bytesWords(bytes)} on each of ${named(volumes)}.`];
  if (away.length > 0) said.push(`${named(away)} is not connected and follows when it is.`);
  if (handedOff > 0)
    said.push(`${many(handedOff, 'frame')} of them went to hand-off: their copies there stay.`);
  if (delivered > 0) said.push(`${many(delivered, 'frame')} of them were delivered.`);
  return said.join(' ');
}
