import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useState } from 'react';
import { bytes, many } from '../../data/format';
import { post, type Api } from '../../data/http';
import { useGet } from '../../data/useGet';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { TextLink } from '../../parts/TextLink';
import { useAction } from '../../parts/useAction';
import { useKeptState } from '../../parts/useKeptState';
import { INK } from '../../theme/theme';
import { lineOfNames, namesIn } from './sentWords';

interface Props {
  set: Api['DeliveryDto'];
  name: string;
  shootId: string;
  onClose: () => void;
}

type Part = Api['SendDto']['part'];

/** Copies a set, or some of its frames, to where somebody gets it. */
export function SendDialog({ set, name, shootId, onClose }: Props) {
  const { data: destinations, error: unknown } = useGet('/destinations');
  const { data: frames } = useGet(`/shoots/${shootId}/frames`);
  const [chosen, setChosen] = useKeptState('send.destination', '');
  const [part, setPart] = useKeptState<Part>('send.part', 'folder');
  const [only, setOnly] = useState('');
  const destination = destinations?.find(({ id }) => id === chosen) ?? destinations?.[0];
  const known = frames as { columns: { id?: string[]; name?: string[] } } | undefined;
  const named = namesIn(only, known?.columns.name ?? [], known?.columns.id ?? []);
  const { run, busy, error, again } = useAction(async () => {
    await post(`/deliveries/${set.jobId}/send`, {
      ...{ destinationId: destination!.id, part, frameIds: only.trim() === '' ? null : named.ids },
    });
    onClose();
  });
  const { result } = set;
  const size =
    part === 'zip' ? result.zip.size : part === 'folder' ? result.bytes : result.zip.size + result.bytes;
  const whole = only.trim() === '';
  const ready = destination !== undefined && (whole || (named.unknown.length === 0 && named.ids.length > 0));
  return (
    <Dialog open onClose={onClose} aria-labelledby="send-title" fullWidth maxWidth="sm">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (ready && !busy) run();
        }}
      >
        <DialogTitle id="send-title">Send “{name}”</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2 }}>
          <Problem error={unknown} />
          {!destinations && !unknown && <Loading what="the destinations" />}
          {destinations?.length === 0 && (
            <Box>
              No destination is named yet. <TextLink to="/studio#destinations">Add one in Studio</TextLink>
            </Box>
          )}
          {destination && (
            <>
              <TextField
                select
                label="To"
                value={destination.id}
                onChange={(event) => setChosen(event.target.value)}
                helperText={destination.place}
                sx={{ mt: 1 }}
                slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
              >
                {destinations!.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </TextField>
              <TextField
                select
                label="What"
                value={part}
                disabled={!whole}
                onChange={(event) => setPart(event.target.value as Part)}
                slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
              >
                <option value="folder">
                  the folder with all that is in it, {bytes(result.bytes)} of pictures
                </option>
                <option value="zip">the zip, {bytes(result.zip.size)}</option>
                <option value="both">both</option>
              </TextField>
              <TextField
                label="Only these frames, by the ends of their names; empty: the whole set"
                placeholder="0104 0118"
                value={only}
                onChange={(event) => setOnly(event.target.value)}
                error={named.unknown.length > 0}
                helperText={
                  named.unknown.length > 0
                    ? `No frame of this shoot ends so: ${lineOfNames(named.unknown)}`
                    : whole
                      ? undefined
                      : `${many(named.ids.length, 'frame')}: what of the set shows them, without manifest and zip`
                }
                slotProps={{ inputLabel: { shrink: true }, htmlInput: { spellCheck: false } }}
              />
              <Box sx={{ color: INK.soft }}>
                {whole ? `Some ${bytes(size)} are` : 'Their files are'} copied there and read back, one by
                one; nothing is moved, and nothing that lies there is written over.
                {destination.reach.carried &&
                  ' Another program carries them on from there: that they arrive is proven by nobody.'}
              </Box>
            </>
          )}
          <Problem error={error} again={again} />
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained" disabled={!ready || busy}>
            Send
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
