import { Typography } from '@mui/material';
import { bytes, many } from '../../data/format';
import { useBin } from '../../data/live';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';

/** What waits in the bin, where anything does: the room that it takes is the drives'. */
export function InBin() {
  const { data } = useBin();
  const binned = data?.times.filter(({ deed }) => deed === 'bin') ?? [];
  const forgotten = data?.times.filter(({ deed }) => deed === 'forget') ?? [];
  if (binned.length + forgotten.length === 0) return null;
  const sum = (of: 'frames' | 'bytes', times: typeof binned) => times.reduce((n, time) => n + time[of], 0);
  return (
    <Section title="Bin" aside={<TextLink to="/bin">Look into it</TextLink>}>
      <Typography sx={{ color: 'text.secondary' }}>
        {binned.length > 0 &&
          `${many(sum('frames', binned), 'frame')} in the bin, ${bytes(sum('bytes', binned))} on each drive. `}
        {forgotten.length > 0 && `${many(sum('frames', forgotten), 'frame')} forgotten, files left.`}
      </Typography>
    </Section>
  );
}
