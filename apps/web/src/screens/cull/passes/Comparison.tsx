import { Box, Button } from '@mui/material';
import { count, many } from '../../../data/format';
import type { FrameOrder } from '../../../data/frameOrder';
import type { Api } from '../../../data/http';
import { useGet } from '../../../data/useGet';
import { Loading } from '../../../parts/Loading';
import { Problem } from '../../../parts/Problem';
import { GROUND, INK } from '../../../theme/theme';

interface Props {
  /** two */
  passes: readonly Api['PassDto'][];
  /** the frames of this shoot */
  here: FrameOrder;
  /** these frames are to be looked at, as a pass of their own */
  onLook: (name: string, frames: readonly string[]) => void;
}

/** What two passes made of the frames that both have seen, and the way to those on which they differ. */
export function Comparison({ passes, here, onLook }: Props) {
  const [first, second] = passes;
  const { data, error } = useGet(`/passes/${first!.id}/compare/${second!.id}`);
  const groups = data && [
    { words: 'both kept', frames: data.both },
    { words: `only “${first!.name}” kept`, frames: data.onlyFirst },
    { words: `only “${second!.name}” kept`, frames: data.onlySecond },
    { words: 'kept by neither', frames: data.neither },
  ];
  return (
    <Box
      component="section"
      aria-label="Two passes compared"
      sx={{ bgcolor: GROUND.deep, border: `1px solid ${GROUND.line}`, p: 1.5, mb: 2 }}
    >
      <Box sx={{ mb: 1 }}>
        “{first!.name}” and “{second!.name}”: what each decided, and for the rest what a frame was when it
        began.
      </Box>
      <Problem error={error} />
      {!data && !error && <Loading what="what both have seen" />}
      {groups?.map(({ words, frames }) => (
        <Box key={words} sx={{ display: 'flex', alignItems: 'center', gap: 1.5, minHeight: 32 }}>
          <Box sx={{ width: 60, textAlign: 'right', fontWeight: 640 }}>{count(frames.length)}</Box>
          <Box sx={{ flex: 1 }}>{words}</Box>
          <Button
            size="small"
            variant="outlined"
            color="inherit"
            disabled={frames.length === 0}
            onClick={() => onLook(words, inOrder(frames, here))}
          >
            Look at these
          </Button>
        </Box>
      ))}
      {data && data.seenByOne > 0 && (
        <Box sx={{ color: INK.soft, mt: 0.5 }}>
          {many(data.seenByOne, 'frame')} more, which only one of them has seen.
        </Box>
      )}
    </Box>
  );
}

/** Those of this shoot in its order, then those of others. */
function inOrder(frames: readonly string[], order: FrameOrder): string[] {
  const place = (id: string) => (order.has(id) ? order.placeOf(id) : Infinity);
  return [...frames].sort((a, b) => (place(a) === place(b) ? 0 : place(a) - place(b)));
}
