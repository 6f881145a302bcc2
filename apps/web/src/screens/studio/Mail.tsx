import { Box, Button, TextField, Typography } from '@mui/material';
import type { MessageKind } from '@arkiv/core';
import { useState } from 'react';
import { del, patch, post, put, type Api } from '../../data/http';
import { useMailAccount, useMessageWords } from '../../data/messages';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { INK } from '../../theme/theme';
import { MessageText } from './MessageText';

type Account = Api['MailAccountDto'];

/** Ports as they are usual (RFC 8314): encrypted from the first byte, or after a word. */
const PORTS: Record<Account['security'], number> = { tls: 465, starttls: 587, none: 25 };
const TEXTS: Record<MessageKind, string> = {
  invite: 'Invitation to a gallery',
  reminder: 'A word before a gallery closes',
  pictures: 'Beside pictures',
};
const PLAIN = {
  inputLabel: { shrink: true },
  htmlInput: { spellCheck: false, autoComplete: 'off' },
} as const;

/** The server that carries messages to clients, and what they say. */
export function Mail() {
  const { data, error, mutate } = useMailAccount();
  const texts = useMessageWords();
  return (
    <>
      <Typography sx={{ color: INK.soft, mb: 1 }}>
        Messages to clients go out by a mail server of yours, each only when you press its button. Nothing is
        read from there.
      </Typography>
      <Problem error={error} />
      {!data && !error && <Loading what="the mail server" />}
      {data && <AccountForm key={JSON.stringify(data)} before={data} onKept={() => void mutate()} />}
      {(Object.keys(TEXTS) as MessageKind[]).map((kind) => (
        <MessageText
          key={kind}
          label={TEXTS[kind]}
          words={texts[kind]}
          keep={(words) => patch('/settings', { messages: { ...texts, [kind]: words } })}
        />
      ))}
    </>
  );
}

function AccountForm({ before, onKept }: { before: Account; onKept: () => void }) {
  const [account, setAccount] = useState(before);
  const [password, setPassword] = useState('');
  const [isWell, setIsWell] = useState(false);
  const change = (part: Partial<Account>) => setAccount((now) => ({ ...now, ...part }));
  const { host, port, security, user, from } = account;
  const kept = useAction(async () => {
    await put('/mail-account', {
      ...{ host: host.trim(), port, security, user: user.trim(), from: from.trim() },
      ...(password !== '' && { password }),
    });
    setPassword('');
    onKept();
  });
  const check = useAction(async () => {
    setIsWell(false);
    await post('/mail-account/check');
    setIsWell(true);
  });
  const forget = useAction(async () => {
    await del('/mail-account');
    onKept();
  });
  const isSame =
    password === '' &&
    (['host', 'port', 'security', 'user', 'from'] as const).every((k) => account[k] === before[k]);
  const ready = host.trim() !== '' && from.trim() !== '' && port > 0;
  return (
    <Box
      component="form"
      aria-label="Mail server"
      sx={{ display: 'grid', gap: 1.5, my: 1.5, maxWidth: 640 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (ready && !kept.busy) kept.run();
      }}
    >
      <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: { sm: '2fr 2fr 1fr' } }}>
        <TextField
          label="Mail server (SMTP)"
          value={host}
          placeholder="mail.example.org"
          onChange={(event) => change({ host: event.target.value })}
          slotProps={PLAIN}
        />
        <TextField
          select
          label="Encrypted"
          value={security}
          onChange={(event) => {
            const next = event.target.value as Account['security'];
            change({ security: next, ...(port === PORTS[security] && { port: PORTS[next] }) });
          }}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
        >
          <option value="tls">from the first byte (TLS)</option>
          <option value="starttls">before anything is said (STARTTLS)</option>
          <option value="none">not: it is on this computer</option>
        </TextField>
        <TextField
          label="Port"
          value={port || ''}
          onChange={(event) => change({ port: Number(event.target.value.replace(/\D/g, '').slice(0, 5)) })}
          slotProps={{ ...PLAIN, htmlInput: { inputMode: 'numeric', autoComplete: 'off' } }}
        />
      </Box>
      <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: { sm: '1fr 1fr' } }}>
        <TextField
          label="Name there; empty: it asks for none"
          value={user}
          onChange={(event) => change({ user: event.target.value })}
          slotProps={PLAIN}
        />
        <TextField
          label="Password"
          type="password"
          value={password}
          helperText={before.opens ? 'left empty: the one that is kept' : undefined}
          onChange={(event) => setPassword(event.target.value)}
          slotProps={{ inputLabel: { shrink: true }, htmlInput: { autoComplete: 'new-password' } }}
        />
      </Box>
      <TextField
        label="Messages come from"
        type="email"
        value={from}
        placeholder="studio@example.org"
        onChange={(event) => change({ from: event.target.value })}
        slotProps={PLAIN}
      />
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <Button type="submit" variant="contained" disabled={!ready || isSame || kept.busy}>
          Keep it
        </Button>
        {before.host !== '' && (
          <>
            <Button
              variant="outlined"
              color="inherit"
              disabled={!isSame || check.busy}
              onClick={() => check.run()}
            >
              Try it, without a message
            </Button>
            <Button color="inherit" disabled={forget.busy} onClick={() => forget.run()}>
              Forget it
            </Button>
          </>
        )}
        <span role="status">{check.busy ? 'Asking it …' : isWell && isSame ? 'It lets us in.' : ''}</span>
      </Box>
      <Problem error={kept.error ?? check.error ?? forget.error} />
    </Box>
  );
}
