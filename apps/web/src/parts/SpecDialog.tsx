import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import {
  FORMATS,
  LONGEST_WATERMARK,
  METADATA_CHOICES,
  OUTPUT_FOLDERS,
  SHARPENINGS,
  SPACES,
  specsProblem,
  specWords,
  WATERMARK_PLACES,
  type OutputSpec,
  type SizeRule,
} from '@arkiv/core';
import { useRef, useState, type ReactNode } from 'react';
import { postBytes } from '../data/http';
import { keepSpec, useOutputSpecs } from '../data/outputSpecs';
import { INK, SURROUNDS } from '../theme/theme';
import { PatternField } from './PatternField';
import { Problem } from './Problem';
import { useAction } from './useAction';

const FORMAT_NAMES = {
  jpeg: 'JPEG',
  png: 'PNG',
  webp: 'WebP',
  avif: 'AVIF',
  tiff: 'TIFF',
  asis: 'the file as it is',
};
const SIZE_NAMES = {
  ...{ long: 'long side', short: 'short side', box: 'fits into a box', print: 'print', whole: 'whole size' },
};
const SPACE_NAMES = { srgb: 'sRGB', p3: 'Display P3', grey: 'grey' };
const FOLDER_NAMES = { none: 'none', day: 'one for each day', album: 'one for each album' };
const SHARPEN_NAMES = { none: 'no sharpening', screen: 'for a screen', paper: 'for paper' };
const METADATA_NAMES = {
  ...{ none: 'none', rights: 'creator and rights', butPlaces: 'all but places', all: 'all' },
};

/** What a size begins with where another way of giving it is chosen. */
const SIZES: Readonly<Record<SizeRule['by'], SizeRule>> = {
  long: { by: 'long', pixels: 2000 },
  short: { by: 'short', pixels: 1080 },
  box: { by: 'box', width: 1080, height: 1350 },
  print: { by: 'print', inches: 10, ppi: 300 },
  whole: { by: 'whole' },
};

/** One way of making finished files, changed or made; `before`: the name of the one that it takes the place of, null: it is new. */
export function SpecDialog(props: {
  spec: OutputSpec;
  before: string | null;
  onKept: (name: string) => void;
  onClose: () => void;
}) {
  const { before, onKept, onClose } = props;
  const [spec, setSpec] = useState(props.spec);
  const all = useOutputSpecs();
  const change = (next: Partial<OutputSpec>) => setSpec((now) => ({ ...now, ...next }));
  const others = all.filter(({ name }) => name !== before);
  const problem = specsProblem([...others, spec]);
  const { run, busy, error } = useAction(async () => {
    const its = { ...spec, name: spec.name.trim() };
    await keepSpec(before, its);
    onKept(its.name);
  });
  const asIs = spec.format === 'asis';
  const loses = !asIs && spec.format !== 'png' && spec.format !== 'tiff';
  const { size, watermark } = spec;
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="spec-title">
      <DialogTitle id="spec-title">
        {before === null ? 'A new output spec' : `Output spec “${before}”`}
      </DialogTitle>
      <DialogContent>
        <Box
          component="form"
          id="spec-form"
          onSubmit={(event) => {
            event.preventDefault();
            if (problem === null) run();
          }}
          sx={{ display: 'grid', gap: 2, pt: 1, gridTemplateColumns: 'repeat(4, minmax(0, 1fr))' }}
        >
          <Wide of={2}>
            <TextField
              label="Name, and that of its folder"
              value={spec.name}
              fullWidth
              autoFocus
              onChange={(event) => change({ name: event.target.value })}
              slotProps={{ htmlInput: { maxLength: 60 } }}
            />
          </Wide>
          <Select
            label="Format"
            value={spec.format}
            names={FORMAT_NAMES}
            of={FORMATS}
            onChange={(format) =>
              change({
                format,
                ...(format === 'png' || format === 'tiff' || format === 'asis' ? { mostBytes: null } : {}),
              })
            }
          />
          {loses ? (
            <Numbered
              label="Quality, 1 to 100"
              value={spec.quality}
              onChange={(quality) => change({ quality })}
            />
          ) : (
            <div />
          )}
          {!asIs && (
            <>
              <Select
                label="Size"
                value={size.by}
                names={SIZE_NAMES}
                of={Object.keys(SIZES) as SizeRule['by'][]}
                onChange={(by) => change({ size: SIZES[by] })}
              />
              <SizeFields size={size} onChange={(next) => change({ size: next })} />
              {loses && (
                <TextField
                  label="At most, MB"
                  placeholder="any size"
                  value={spec.mostBytes === null ? '' : spec.mostBytes / 1e6}
                  type="number"
                  slotProps={{
                    htmlInput: { min: 0.02, max: 100, step: 'any' },
                    inputLabel: { shrink: true },
                  }}
                  onChange={(event) =>
                    change({
                      mostBytes:
                        event.target.value === '' ? null : Math.round(Number(event.target.value) * 1e6),
                    })
                  }
                />
              )}
              <Select
                label="Colours"
                value={spec.space}
                names={SPACE_NAMES}
                of={SPACES}
                onChange={(space) => change({ space })}
              />
              <Select
                label="Sharpened"
                value={spec.sharpen}
                names={SHARPEN_NAMES}
                of={SHARPENINGS}
                onChange={(sharpen) => change({ sharpen })}
              />
              <Select
                label="Metadata inside"
                value={spec.metadata}
                names={METADATA_NAMES}
                of={METADATA_CHOICES}
                onChange={(metadata) => change({ metadata })}
              />
            </>
          )}
          <Wide of={4}>
            <PatternField
              label="Names of the files"
              value={spec.pattern}
              fields={['shoot', 'client', 'capture', 'number', 'original']}
              onChange={(pattern) => change({ pattern })}
              help="{number:3} counts each set alone, from 1"
            />
          </Wide>
          <Wide of={2}>
            <Select
              label="Folders"
              value={spec.folders}
              names={FOLDER_NAMES}
              of={OUTPUT_FOLDERS}
              help={
                spec.folders === 'album'
                  ? 'A picture that is in several lies in the first of them'
                  : undefined
              }
              onChange={(folders) => change({ folders })}
            />
          </Wide>
          {!asIs && (
            <>
              <Wide of={2}>
                <WatermarkOf watermark={watermark} onChange={(next) => change({ watermark: next })} />
              </Wide>
              {watermark ? (
                <>
                  <Select
                    label="Where"
                    value={watermark.place}
                    of={WATERMARK_PLACES}
                    onChange={(place) => change({ watermark: { ...watermark, place } })}
                  />
                  <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
                    <Numbered
                      label="Width, %"
                      value={watermark.size}
                      onChange={(share) => change({ watermark: { ...watermark, size: share } })}
                    />
                    <Numbered
                      label="Strength, %"
                      value={watermark.strength}
                      onChange={(strength) => change({ watermark: { ...watermark, strength } })}
                    />
                  </Box>
                </>
              ) : (
                <Wide of={2}>{null}</Wide>
              )}
            </>
          )}
        </Box>
        <Box sx={{ mt: 2, color: INK.soft }} role="status">
          {problem ?? specWords(spec)}
        </Box>
        <Problem error={error} />
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button type="submit" form="spec-form" variant="contained" disabled={busy || problem !== null}>
          Keep
        </Button>
      </DialogActions>
    </Dialog>
  );
}

const Wide = ({ of, children }: { of: number; children: ReactNode }) => (
  <Box sx={{ gridColumn: `span ${of}` }}>{children}</Box>
);

const NEW_WATERMARK = { place: 'bottom right', size: 25, strength: 60 } as const;

/** Words that are laid over pictures, or a picture that is. */
function WatermarkOf({
  watermark,
  onChange,
}: {
  watermark: OutputSpec['watermark'];
  onChange: (watermark: OutputSpec['watermark']) => void;
}) {
  const file = useRef<HTMLInputElement>(null);
  const { run, busy, error } = useAction(async (chosen: File) => {
    const { picture } = await postBytes('/watermarks', chosen);
    onChange({ ...NEW_WATERMARK, ...watermark, text: chosen.name.slice(0, LONGEST_WATERMARK), picture });
  });
  if (watermark?.picture)
    return (
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, minWidth: 0 }}>
        <img
          src={`/api/watermarks/${watermark.picture}`}
          alt={`The mark ${watermark.text}`}
          style={{ maxWidth: 90, maxHeight: 40, background: SURROUNDS[2] }}
        />
        <Box sx={{ flex: 1, minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis' }}>
          {watermark.text}
        </Box>
        <Button size="small" color="inherit" onClick={() => onChange(null)}>
          Without it
        </Button>
      </Box>
    );
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start' }}>
      <TextField
        label="Words over the picture"
        placeholder="none"
        value={watermark?.text ?? ''}
        fullWidth
        slotProps={{ htmlInput: { maxLength: LONGEST_WATERMARK }, inputLabel: { shrink: true } }}
        onChange={(event) =>
          onChange(
            event.target.value === '' ? null : { ...NEW_WATERMARK, ...watermark, text: event.target.value },
          )
        }
      />
      <Button
        color="inherit"
        disabled={busy}
        title="A PNG with a transparent ground, which is laid over pictures"
        onClick={() => file.current?.click()}
        sx={{ whiteSpace: 'nowrap', flex: 'none' }}
      >
        or a PNG …
      </Button>
      <input
        ref={file}
        type="file"
        accept="image/png"
        aria-label="A PNG that is laid over pictures"
        hidden
        onChange={(event) => {
          const [chosen] = event.target.files ?? [];
          if (chosen) run(chosen);
          event.target.value = '';
        }}
      />
      <Problem error={error} />
    </Box>
  );
}

function SizeFields({ size, onChange }: { size: SizeRule; onChange: (size: SizeRule) => void }) {
  switch (size.by) {
    case 'long':
    case 'short':
      return (
        <Numbered label="Pixels" value={size.pixels} onChange={(pixels) => onChange({ ...size, pixels })} />
      );
    case 'box':
      return (
        <>
          <Numbered
            label="Width, pixels"
            value={size.width}
            onChange={(width) => onChange({ ...size, width })}
          />
          <Numbered
            label="Height, pixels"
            value={size.height}
            onChange={(height) => onChange({ ...size, height })}
          />
        </>
      );
    case 'print':
      return (
        <>
          <Numbered
            label="Long side, inches"
            value={size.inches}
            onChange={(inches) => onChange({ ...size, inches })}
          />
          <Numbered label="Pixels per inch" value={size.ppi} onChange={(ppi) => onChange({ ...size, ppi })} />
        </>
      );
    case 'whole':
      return null;
  }
}

function Numbered({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
}) {
  return (
    <TextField
      label={label}
      type="number"
      value={Number.isNaN(value) ? '' : value}
      onChange={(event) => onChange(event.target.value === '' ? NaN : Number(event.target.value))}
      slotProps={{ htmlInput: { step: 'any' }, inputLabel: { shrink: true } }}
    />
  );
}

function Select<T extends string>({
  label,
  value,
  of,
  names,
  help,
  onChange,
}: {
  label: string;
  value: T;
  of: readonly T[];
  /** how each is called; missing: as it is */
  names?: Readonly<Record<T, string>>;
  help?: string | undefined;
  onChange: (value: T) => void;
}) {
  return (
    <TextField
      select
      label={label}
      value={value}
      helperText={help}
      slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
      onChange={(event) => onChange(event.target.value as T)}
    >
      {of.map((one) => (
        <option key={one} value={one}>
          {names?.[one] ?? one}
        </option>
      ))}
    </TextField>
  );
}
