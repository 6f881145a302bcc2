import { Box } from '@mui/material';
import { useState } from 'react';
import { many } from '../../data/format';
import { post, type Api } from '../../data/http';
import { FormDialog } from '../../parts/FormDialog';
import { PatternField } from '../../parts/PatternField';
import { Problem } from '../../parts/Problem';
import { Tick } from '../../parts/Tick';
import { useAction } from '../../parts/useAction';
import { CAPTION, INK } from '../../theme/theme';
import { FRAME_FIELDS } from '../files/FrameNames';
import { useMovePlan } from '../files/useMove';

interface Props {
  adopted: Api['AdoptedDto'];
  name: string;
  /** the studio's pattern */
  studio: string;
  onClose: () => void;
  onDone: () => void;
}

/** All shoots of an adopted folder into the archive's own dated folders, with the first file of it as an example. */
export function TakeInFolder({ adopted, name, studio, onClose, onDone }: Props) {
  const { id, frames, shoots, drive, firstShoot } = adopted;
  const [rename, setRename] = useState(true);
  const [pattern, setPattern] = useState(studio);
  const [left, setLeft] = useState<readonly string[]>([]);
  const naming = { rename, ...(rename && { pattern }) };
  const { plan, error } = useMovePlan(
    firstShoot === null ? null : { kind: 'takeIn', shootId: firstShoot, ...naming },
    `${frames}`,
  );
  const begin = useAction(async () => {
    const taken = await post(`/adopted/${id}/take-in`, naming);
    onDone();
    if (taken.left.length === 0) onClose();
    else setLeft(taken.left);
  });
  const [first] = plan?.ways ?? [];
  return (
    <FormDialog
      title={`Take in “${name}”?`}
      deed={`Take in ${many(frames, 'frame')}`}
      ready={frames > 0 && !error}
      busy={begin.busy}
      width="sm"
      onClose={onClose}
      onSubmit={begin.run}
    >
      <Box>
        This moves {many(frames, 'frame')} in {many(shoots, 'shoot')} into the archive’s dated folders on “
        {drive}”, with what other programs keep of them. From then on each frame has its sidecar, and copies
        on as many drives as the studio asks for.
      </Box>
      <Box sx={{ color: INK.soft }}>
        Nothing is overwritten, and all else in the folder stays. Each shoot can be put back under its Files.
      </Box>
      <Tick checked={rename} onChange={setRename}>
        name the frames anew; the names that they have stay in their sidecars
      </Tick>
      {rename && (
        <PatternField label="Name pattern" value={pattern} fields={FRAME_FIELDS} onChange={setPattern} />
      )}
      {first && (
        <Box sx={{ ...CAPTION, overflowWrap: 'anywhere' }}>
          <Box sx={{ color: INK.soft }}>{first.from}</Box>→ {first.to}
        </Box>
      )}
      {left.map((reason) => (
        <Problem key={reason} error={new Error(reason)} />
      ))}
      <Problem error={error} />
      <Problem error={begin.error} again={begin.again} />
    </FormDialog>
  );
}
