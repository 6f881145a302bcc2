import { TextField } from '@mui/material';
import { useState } from 'react';
import { post } from '../../../data/http';
import { FormDialog } from '../../../parts/FormDialog';
import { Problem } from '../../../parts/Problem';
import { useAction } from '../../../parts/useAction';
import { RightsPart } from './RightsPart';
import { Tick } from '../../../parts/Tick';

/** An address of its own for one person. */
export function LinkDialog({ galleryId, onClose }: { galleryId: string; onClose: () => void }) {
  const [name, setName] = useState('');
  const [email, setEmail] = useState('');
  const [withCode, setWithCode] = useState(true);
  const [rights, setRights] = useState({ choose: false, remark: true, download: false });
  const { run, busy, error, again } = useAction(async () => {
    await post(`/galleries/${galleryId}/links`, {
      ...{ name: name.trim(), withCode, rights },
      ...(email.trim() !== '' && { email: email.trim() }),
    });
    onClose();
  });
  const ready = name.trim() !== '';
  return (
    <FormDialog
      title="A link for one person"
      deed="Make the link"
      width="sm"

      onSubmit={() => run()}
      {...{ ready, busy, onClose }}
    >
      <TextField
        label="Whom it is for"
        value={name}
        autoFocus
        sx={{ mt: 1 }}
        onChange={(event) => setName(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 60 }, inputLabel: { shrink: true } }}
      />
      <TextField
        label="E-mail, if known"
        type="email"
        value={email}
        onChange={(event) => setEmail(event.target.value)}
        slotProps={{ inputLabel: { shrink: true } }}
      />
      <RightsPart rights={rights} onChange={setRights} />
      <Tick checked={withCode} onChange={setWithCode}>
        Ask for a pass code
      </Tick>
      <Problem error={error} again={again} />
    </FormDialog>
  );
}
