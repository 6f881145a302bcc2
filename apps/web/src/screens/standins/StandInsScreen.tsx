import { Autocomplete, Box, Button, TextField, Typography } from '@mui/material';
import { type ReactNode } from 'react';
import { bytes } from '../../data/format';
import { post, put, type Api } from '../../data/http';
import { useStandIns } from '../../data/live';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { Section } from '../../parts/Section';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { Mailbox } from './Mailbox';
import { useGet } from '../../data/useGet';

/** Bytes a second: a slow stick, an old card, a card in an old reader; null: the folder itself. */
const SPEEDS = [null, 20e6, 5e6, 1e6];
/** Bytes after which a card is pulled out or a drive is full: at once, in a small card's middle, in a large one's. */
const AFTER = [null, 1e6, 10e6, 100e6];
const STATES = {
  well: 'works',
  full: 'full',
  unplugged: 'unplugged',
  'read-only': 'read-only',
} as const;

/** The hand that plays with the demo's simulated devices. */
export function StandInsScreen() {
  const { data, error, mutate } = useStandIns();
  const { run, error: failure } = useAction(async (action: Promise<unknown>) => {
    await action;
    await mutate();
  });
  return (
    <Page
      title="Simulated devices"
      lead="Folders on this computer play the readers and drives. Make them fail here, and see what Arkiv does. A restart makes all of them work again."
    >
      <Problem error={error ?? failure} />
      <Section title="Readers">
        {data?.slots.map((slot) => (
          <SlotRow key={slot.id} slot={slot} cards={data.cards} run={run} />
        ))}
      </Section>
      <Section title="Drives">
        {data?.drives.map((drive) => (
          <DriveRow key={drive.id} drive={drive} run={run} />
        ))}
      </Section>
      <Section title="Servers">
        {data?.servers.map((server) => (
          <ServerRow key={server.id} server={server} run={run} />
        ))}
      </Section>
      <Mailbox />
      <Typography sx={{ color: INK.faint }}>
        The same can be asked of the server: GET, PUT and POST under /api/stand-ins.
      </Typography>
    </Page>
  );
}

interface RowProps {
  run: (action: Promise<unknown>) => void;
}

function SlotRow({ slot, cards, run }: RowProps & { slot: Api['StandInSlotDto']; cards: string[] }) {
  const change = (body: Api['ChangeSlotDto']) => run(put(`/stand-ins/slots/${slot.id}`, body));
  const { data: card } = useGet(
    slot.card ? `/readers/${slot.id}/card?card=${encodeURIComponent(slot.card)}` : null,
  );
  const files = card?.frames.flatMap((frame) => frame.files.map((file) => file.path)) ?? [];
  return (
    <Row name={slot.name}>
      <Choice
        label="Card"
        value={slot.card ?? ''}
        options={[['', 'empty'], ...cards.map((name): [string, string] => [name, name])]}
        onChange={(name) =>
          run(
            name
              ? post(`/stand-ins/slots/${slot.id}/insert`, { card: name })
              : post(`/stand-ins/slots/${slot.id}/pull`),
          )
        }
      />
      <Choice
        label="Speed"
        value={String(slot.bytesPerSecond)}
        options={SPEEDS.map((n) => [String(n), n === null ? 'as fast as it can' : `${bytes(n)} a second`])}
        onChange={(n) => change({ bytesPerSecond: numberOrNull(n) })}
      />
      <Choice
        label="Card is pulled out"
        value={AFTER.includes(slot.pullAfterBytes) ? String(slot.pullAfterBytes) : 'counting'}
        options={[
          ...AFTER.map((n): [string, string] => [String(n), n === null ? 'never' : `after ${bytes(n)} read`]),
          ...(AFTER.includes(slot.pullAfterBytes)
            ? []
            : [['counting', `after ${bytes(slot.pullAfterBytes ?? 0)} more`] as [string, string]]),
        ]}
        disabled={!slot.card}
        onChange={(n) => n !== 'counting' && change({ pullAfterBytes: numberOrNull(n) })}
      />
      <Button
        variant="outlined"
        color="inherit"
        disabled={!slot.card}
        aria-label={`Pull it out now: the card in ${slot.name}`}
        onClick={() => run(post(`/stand-ins/slots/${slot.id}/pull`))}
      >
        Pull it out now
      </Button>
      <Box sx={{ flexBasis: '100%' }}>
        <Autocomplete
          multiple
          size="small"
          limitTags={4}
          disabled={!slot.card}
          options={files}
          value={slot.unreadable}
          onChange={(_, unreadable) => change({ unreadable })}
          renderInput={(params) => <TextField {...params} label="Files whose second half cannot be read" />}
        />
      </Box>
    </Row>
  );
}

function DriveRow({ drive, run }: RowProps & { drive: Api['StandInDriveDto'] }) {
  const change = (body: Api['ChangeDriveDto']) => run(put(`/stand-ins/drives/${drive.id}`, body));
  const left = drive.bytesUntilFull;
  return (
    <Row name={drive.name}>
      <Choice
        label="The drive"
        value={drive.state}
        options={Object.entries(STATES)}
        onChange={(state) => change({ state: state as keyof typeof STATES })}
      />
      <Choice
        label="Runs full"
        value={AFTER.includes(left) ? String(left) : 'counting'}
        options={[
          ...AFTER.map((n): [string, string] => [
            String(n),
            n === null ? 'not by itself' : `after ${bytes(n)} written`,
          ]),
          ...(AFTER.includes(left)
            ? []
            : [['counting', `after ${bytes(left ?? 0)} more`] as [string, string]]),
        ]}
        disabled={drive.state !== 'well'}
        onChange={(n) => n !== 'counting' && change({ state: 'well', bytesUntilFull: numberOrNull(n) })}
      />
    </Row>
  );
}

function ServerRow({ server, run }: RowProps & { server: Api['StandInServerDto'] }) {
  const change = (body: Api['ChangeServerDto']) => run(put(`/stand-ins/servers/${server.id}`, body));
  const counted = (n: number | null, words: string): [string, string][] => [
    ...AFTER.map((one): [string, string] => [String(one), one === null ? 'never' : `after ${bytes(one)}`]),
    ...(AFTER.includes(n) ? [] : [[String(n), `after ${bytes(n ?? 0)} ${words}`] as [string, string]]),
  ];
  return (
    <Row name={server.name}>
      <Choice
        label="Speed"
        value={String(server.bytesPerSecond)}
        options={SPEEDS.map((n) => [String(n), n === null ? 'as fast as it can' : `${bytes(n)} a second`])}
        onChange={(n) => change({ bytesPerSecond: numberOrNull(n) })}
      />
      <Choice
        label="Hangs up"
        value={String(server.cutAfterBytes)}
        options={counted(server.cutAfterBytes, 'more')}
        onChange={(n) => change({ cutAfterBytes: numberOrNull(n) })}
      />
      <Choice
        label="Is full"
        value={String(server.bytesUntilFull)}
        options={counted(server.bytesUntilFull, 'more')}
        onChange={(n) => change({ bytesUntilFull: numberOrNull(n) })}
      />
      <Choice
        label="Lets us in"
        value={String(!server.refuses)}
        options={[
          ['true', 'yes'],
          ['false', 'no: wrong password'],
        ]}
        onChange={(is) => change({ refuses: is === 'false' })}
      />
      <Choice
        label="The next file"
        value={String(server.changesNext)}
        options={[
          ['false', 'arrives as it is'],
          ['true', 'arrives with a byte changed'],
        ]}
        onChange={(is) => change({ changesNext: is === 'true' })}
      />
      <Box sx={{ ...CAPTION, flexBasis: '100%', color: INK.soft }}>
        {server.id === 'webdav' ? `http://127.0.0.1:${server.port}/` : `127.0.0.1, port ${server.port}`} ·
        name {server.user}, password {server.password}
      </Box>
    </Row>
  );
}

const numberOrNull = (text: string): number | null => (text === 'null' ? null : Number(text));

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Box
      role="group"
      aria-label={name}
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        alignItems: 'center',
        gap: 1.5,
        py: 1.5,
        borderBottom: `1px solid ${GROUND.raised}`,
      }}
    >
      <Box sx={{ ...CAPTION, width: 130, fontSize: 15, fontWeight: 640 }}>{name}</Box>
      {children}
    </Box>
  );
}

function Choice({
  label,
  value,
  options,
  onChange,
  disabled,
}: {
  label: string;
  value: string;
  options: [string, string][];
  onChange: (value: string) => void;
  disabled?: boolean;
}) {
  return (
    <TextField
      select
      slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
      label={label}
      value={value}
      disabled={disabled}
      onChange={(event) => onChange(event.target.value)}
      sx={{ width: 200 }}
    >
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </TextField>
  );
}
