import { Box } from '@mui/material';
import { INK } from '../../theme/theme';

/**
 * The tick in a frame's caption: taken in, or left on the card. What it says is said by the cell's own selection, and
 * Space does the same, so that it is for hands only.
 */
export function ChoiceBox({
  on,
  name,
  onToggle,
}: {
  on: boolean;
  name: string;
  onToggle: (range: boolean) => void;
}) {
  return (
    <Box
      aria-hidden
      data-choice={name}
      title={on ? 'Leave on the card (Space)' : 'Take in (Space)'}
      // The picture below it is not opened, and no text is selected by a range.
      onMouseDown={(event) => event.preventDefault()}
      onClick={(event) => {
        event.stopPropagation();
        onToggle(event.shiftKey);
      }}
      onDoubleClick={(event) => event.stopPropagation()}
      sx={{ flex: 'none', width: 26, height: 24, display: 'grid', placeItems: 'center', ml: '-4px' }}
    >
      <svg width="15" height="15" viewBox="0 0 15 15">
        <rect x="0.500" y="0.500" width="14" height="14" fill="none" stroke={INK.soft} />
        {on && <path d="M3 7.500 6.300 11 12 3.500" fill="none" stroke={INK.full} strokeWidth="2" />}
      </svg>
    </Box>
  );
}
