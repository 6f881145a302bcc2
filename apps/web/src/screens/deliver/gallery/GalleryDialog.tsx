import { Box, TextField } from '@mui/material';
import { LABELS } from '@arkiv/core';
import { useState } from 'react';
import { labelNames } from '../../../data/labels';
import { post } from '../../../data/http';
import { useOutputSpecs } from '../../../data/outputSpecs';
import { useStages } from '../../../data/stages';
import { useSettings } from '../../../data/live';
import { useGet } from '../../../data/useGet';
import { FormDialog } from '../../../parts/FormDialog';
import { OpenFor } from '../../../parts/OpenFor';
import { Problem } from '../../../parts/Problem';
import { useAction } from '../../../parts/useAction';
import { useKeptState } from '../../../parts/useKeptState';
import { INK } from '../../../theme/theme';
import { useWhichKeepers } from '../useWhichKeepers';
import { WhichKeepers } from '../WhichKeepers';
import { RightsPart } from './RightsPart';

interface Props {
  shootId: string;
  /** of the shoot */
  title: string;
  onClose: () => void;
}

/** Days after which a gallery is closed, as they are offered; 0: it is not. */
const DAYS = [14, 30, 90, 0];
const DAY = 24 * 60 * 60 * 1000;
const shrunk = { select: { native: true }, inputLabel: { shrink: true } };

/** Makes a page on which a client sees pictures. */
export function GalleryDialog({ shootId, title, onClose }: Props) {
  const specs = useOutputSpecs();
  const stages = useStages();
  const labels = labelNames(useSettings().data);
  const { data: sets } = useGet(`/shoots/${shootId}/deliveries`);
  const { which, own, choose, line } = useWhichKeepers();
  const [name, setName] = useState(title);
  const [words, setWords] = useState('');
  const [side, setSide] = useKeptState('gallery.side', 2048);
  const [watermark, setWatermark] = useKeptState('gallery.watermark', '');
  const [set, setSet] = useState('');
  const [most, setMost] = useState('');
  const [becomes, setBecomes] = useKeptState('gallery.becomes', 'pile');
  const [days, setDays] = useKeptState('gallery.days', 30);
  const [withCode, setWithCode] = useKeptState('gallery.code', true);
  const [rights, setRights] = useState({ choose: true, remark: true, download: true });
  const marked = specs.filter((spec) => spec.watermark !== null);
  const { run, busy, error, again } = useAction(async () => {
    const [kind, value] = becomes.split(' ');
    await post(`/shoots/${shootId}/galleries`, {
      ...{ title: name.trim(), words: words.trim(), line, side, withCode },
      ...(marked.some((spec) => spec.name === watermark) && { watermarkOf: watermark }),
      ...(set !== '' && { deliveryId: set }),
      ...(rights.choose && { most: Number(most) || 0 }),
      ...(rights.choose && kind === 'pile' && { ownPile: true }),
      ...(rights.choose &&
        (kind === 'stage' || kind === 'label') && { becomes: { kind, value: value as never } }),
      ...(days > 0 && { until: Date.now() + days * DAY }),
      rights: { ...rights, download: rights.download && set !== '' },
    });
    onClose();
  });
  const ready = name.trim() !== '';
  return (
    <FormDialog
      title="Make a gallery"
      deed="Make the gallery"
      width="md"
      sx={{ gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' }, alignItems: 'start' }}
      onSubmit={() => run()}
      {...{ ready, busy, onClose }}
    >
      <Box sx={{ display: 'grid', gap: 2 }}>
        <TextField
          label="Title, as the client reads it"
          value={name}
          autoFocus
          sx={{ mt: 1 }}
          error={!ready}
          onChange={(event) => setName(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 80 }, inputLabel: { shrink: true } }}
        />
        <TextField
          label="Words to the client"
          value={words}
          multiline
          minRows={2}
          placeholder="Please choose forty for the album by Sunday."
          onChange={(event) => setWords(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 600 }, inputLabel: { shrink: true } }}
        />
        <WhichKeepers which={which} own={own} onChange={choose} />
        <TextField
          select
          label="Largest picture"
          value={side}
          onChange={(event) => setSide(Number(event.target.value))}
          slotProps={shrunk}
        >
          {[1280, 2048, 3072, 4096].map((pixels) => (
            <option key={pixels} value={pixels}>
              {pixels.toLocaleString()} pixels, long side
            </option>
          ))}
        </TextField>
        <TextField
          select
          label="Watermark"
          value={marked.some((spec) => spec.name === watermark) ? watermark : ''}
          onChange={(event) => setWatermark(event.target.value)}
          helperText={
            marked.length === 0 ? 'None of the output specs has one: add it there in Studio' : undefined
          }
          slotProps={shrunk}
        >
          <option value="">none</option>
          {marked.map((spec) => (
            <option key={spec.name} value={spec.name}>
              “{spec.watermark!.text}”, as in {spec.name}
            </option>
          ))}
        </TextField>
      </Box>
      <Box sx={{ display: 'grid', gap: 2, mt: { md: 1 } }}>
        <RightsPart rights={rights} onChange={setRights} />
        {rights.choose && (
          <>
            <TextField
              label="How many they choose; empty: as many as they like"
              value={most}
              onChange={(event) => setMost(event.target.value.replace(/\D/g, '').slice(0, 4))}
              slotProps={{ htmlInput: { inputMode: 'numeric' }, inputLabel: { shrink: true } }}
            />
            <TextField
              select
              label="Frames that they choose"
              value={becomes}
              onChange={(event) => setBecomes(event.target.value)}
              slotProps={shrunk}
            >
              <option value="pile">go into a pile of their own</option>
              {stages.map((stage) => (
                <option key={stage.id} value={`stage ${stage.id}`}>
                  come to “{stage.name}”
                </option>
              ))}
              {LABELS.map((label) => (
                <option key={label} value={`label ${label}`}>
                  get the label {labels[label]}
                </option>
              ))}
              <option value="nothing">stay as they are</option>
            </TextField>
          </>
        )}
        {rights.download && (
          <TextField
            select
            label="Files they may take along"
            value={set}
            onChange={(event) => setSet(event.target.value)}
            helperText={
              sets?.length === 0
                ? 'Make a set first: what it holds of these frames can be taken along'
                : 'Of these frames, in each size that the set has; nothing else'
            }
            slotProps={shrunk}
          >
            <option value="">none</option>
            {sets?.map(({ jobId, title: made }) => (
              <option key={jobId} value={jobId}>
                those of the set “{made.slice(made.lastIndexOf(' · ') + 3)}”
              </option>
            ))}
          </TextField>
        )}
        <OpenFor
          days={days}
          choices={DAYS}
          endless="as long as it is not closed"
          onDays={setDays}
          withCode={withCode}
          onCode={setWithCode}
        />
        <Box sx={{ color: INK.soft }}>
          Pictures are made anew for it, without where they were taken. Nothing of the originals can be
          reached.
        </Box>
      </Box>
      <Box sx={{ gridColumn: '1 / -1' }}>
        <Problem error={error} again={again} />
      </Box>
    </FormDialog>
  );
}
