import { TextField } from '@mui/material';
import { many } from '../data/format';
import { Tick } from './Tick';

/** For how long people outside may come, and whether they are asked for a code. `days`: 0 is without an end, which `endless` says. */
export function OpenFor({
  days,
  choices,
  endless,
  onDays,
  withCode,
  onCode,
}: {
  days: number;
  choices: readonly number[];
  endless: string;
  onDays: (days: number) => void;
  withCode: boolean;
  onCode: (withCode: boolean) => void;
}) {
  return (
    <>
      <TextField
        select
        label="Open for"
        value={days}
        onChange={(event) => onDays(Number(event.target.value))}
        slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
      >
        {choices.map((choice) => (
          <option key={choice} value={choice}>
            {choice === 0 ? endless : many(choice, 'day')}
          </option>
        ))}
      </TextField>
      <Tick checked={withCode} onChange={onCode}>
        Ask for a pass code, beside the link
      </Tick>
    </>
  );
}
