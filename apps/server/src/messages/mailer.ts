import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import type { MailAccount } from './mailAccount.entity';

/** Milliseconds for a connection and for each answer: a server that greets late, to slow down senders of junk, does so within ten. */
const GREETS_WITHIN = 20_000;
/** Milliseconds of silence: a large message over a slow line is still under way, and says so by each packet. */
const SILENT_FOR = 60_000;
export interface Mail {
  /** `Name <address>` apart */
  from: { name: string; address: string };
  to: string;
  subject: string;
  text: string;
  files: readonly { name: string; bytes: Uint8Array }[];
}

/** The line broke while the message itself was told: it may have gone, or not. */
export class MailUnknown extends Error {}

/** Speaks to mail servers (SMTP, RFC 5321), by the library `nodemailer`. */
@Injectable()
export class Mailer {
  /** Whether it lets us in. Nothing is sent. Throws `mail.away`, `mail.login`. */
  async check(account: MailAccount, password: string): Promise<void> {
    const transport = await transportTo(account, password);
    try {
      await transport.verify();
    } catch (error) {
      throw mailError(error, account.host, '');
    } finally {
      transport.close();
    }
  }

  /** Throws `mail.away`, `mail.login`, `mail.recipient`, `mail.refused` where it was not sent, `MailUnknown` where nobody knows. */
  async send(account: MailAccount, password: string, mail: Mail): Promise<void> {
    let isTold = false;
    const transport = await transportTo(account, password, () => (isTold = true));
    try {
      await transport.sendMail({
        ...{ from: mail.from, to: { name: '', address: mail.to }, subject: mail.subject, text: mail.text },
        attachments: mail.files.map(({ name, bytes }) => ({ filename: name, content: Buffer.from(bytes) })),
      });
    } catch (error) {
      const trouble = mailError(error, account.host, mail.to);
      // No word of the server's, and the message under way: it may have all of it, and only its answer is lost.
      if (isTold && trouble.code === 'mail.away') throw new MailUnknown(reasonOf(error));
      throw trouble;
    } finally {
      transport.close();
    }
  }
}

const transportTo = async (
  { host, port, security, user }: MailAccount,
  password: string,
  onMessage: () => void = () => undefined,
) =>
  (await import('nodemailer')).createTransport({
    ...{ host, port, secure: security === 'tls', requireTLS: security === 'starttls' },
    ignoreTLS: security === 'none',
    ...(user !== '' && { auth: { user, pass: password } }),
    ...{ connectionTimeout: GREETS_WITHIN, greetingTimeout: GREETS_WITHIN, socketTimeout: SILENT_FOR },
    // A message is what it is given, whatever paths and addresses its words look like.
    ...{ disableFileAccess: true, disableUrlAccess: true },
    ...{ logger: listensFor(onMessage), transactionLog: true },
  });

/** Hears what is said to a server, for the moment from which the message itself is told (DATA). Nothing of it is kept. */
function listensFor(onMessage: () => void) {
  const debug = ({ tnx }: { tnx?: string }, words: unknown) => {
    if (tnx === 'client' && words === 'DATA') onMessage();
  };
  const silent = () => undefined;
  return { debug, level: silent, trace: silent, info: silent, warn: silent, error: silent, fatal: silent };
}

interface Trouble {
  code?: string;
  responseCode?: number;
  response?: string;
  message: string;
}

/** A server's own words, on one line, as they say most. */
const reasonOf = (error: unknown): string => {
  const { response, message } = error as Trouble;
  return (response ?? message).replace(/\s+/g, ' ').slice(0, 300);
};

function mailError(error: unknown, server: string, to: string): ArkivError {
  const { code = '', responseCode } = error as Trouble;
  const reason = reasonOf(error);
  if (code === 'EAUTH') return new ArkivError('mail.login', { server, reason });
  if (code === 'EENVELOPE' && to !== '') return new ArkivError('mail.recipient', { to, reason });
  if (responseCode !== undefined) return new ArkivError('mail.refused', { server, reason });
  return new ArkivError('mail.away', { server, reason });
}
