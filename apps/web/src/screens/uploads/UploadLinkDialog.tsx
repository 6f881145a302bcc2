import { TextField } from '@mui/material';
import { useState } from 'react';
import { LONGEST_GUEST } from '@arkiv/core';
import { post } from '../../data/http';
import { FormDialog } from '../../parts/FormDialog';
import { OpenFor } from '../../parts/OpenFor';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { useKeptState } from '../../parts/useKeptState';

/** Days after which a link opens nothing any more, as they are offered; 0: it stays until it is taken back. */
const DAYS = [2, 14, 60, 0];
const DAY = 24 * 60 * 60 * 1000;
const GB = 1e9;
/** Offered, in GB: a few hundred pictures of telephones, a card, a day of one body, a day with clips. */
const SIZES = [5, 64, 256, 1000];
const shrunk = { select: { native: true }, inputLabel: { shrink: true } };

/** Makes an address by which somebody else sends pictures. */
export function UploadLinkDialog({ onClose, onMade }: { onClose: () => void; onMade: () => void }) {
  const [title, setTitle] = useState('');
  const [name, setName] = useState('');
  const [size, setSize] = useKeptState('uploadLink.size', 64);
  const [days, setDays] = useKeptState('uploadLink.days', 14);
  const [withCode, setWithCode] = useKeptState('uploadLink.code', true);
  const { run, busy, error, again } = useAction(async () => {
    await post('/uploads/links', {
      ...{ title: title.trim(), name: name.trim(), most: size * GB, withCode },
      until: days > 0 ? Date.now() + days * DAY : null,
    });
    onMade();
    onClose();
  });
  return (
    <FormDialog
      title="A link by which others send"
      deed="Make the link"
      width="sm"
      ready={title.trim() !== ''}
      onSubmit={() => run()}
      {...{ busy, onClose }}
    >
      <TextField
        label="What is asked for, as they read it"
        value={title}
        autoFocus
        sx={{ mt: 1 }}
        placeholder="Press night, second body"
        onChange={(event) => setTitle(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 80 }, inputLabel: { shrink: true } }}
      />
      <TextField
        label="Whom it is for"
        value={name}
        helperText="Empty: for several, who each say who they are. What each sends is a card of its own."
        onChange={(event) => setName(event.target.value)}
        slotProps={{ htmlInput: { maxLength: LONGEST_GUEST }, inputLabel: { shrink: true } }}
      />
      <TextField
        select
        label="At most"
        value={size}
        onChange={(event) => setSize(Number(event.target.value))}
        helperText="All that comes by it together."
        slotProps={shrunk}
      >
        {SIZES.map((gb) => (
          <option key={gb} value={gb}>
            {gb.toLocaleString()} GB
          </option>
        ))}
      </TextField>
      <OpenFor
        days={days}
        choices={DAYS}
        endless="as long as it is not taken back"
        onDays={setDays}
        withCode={withCode}
        onCode={setWithCode}
      />
      <Problem error={error} again={again} />
    </FormDialog>
  );
}
