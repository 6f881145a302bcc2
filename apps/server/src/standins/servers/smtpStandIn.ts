import path from 'node:path';
import type { AddressInfo } from 'node:net';
import type { SMTPServer, SMTPServerDataStream, SMTPServerSession } from 'smtp-server';
import type { Disk } from '../../disk/disk';
import { placeNew } from '../../disk/place';
import { Cut, FaultyIntake, Full, STAND_IN_PASSWORD, STAND_IN_USER } from './serverFaults';

/** What a server says to whom it has no box for (RFC 5321, 4.2.3). */
const NO_BOX = 550;
const NO_ROOM = 452;
const NO_ENTRY = 535;

const answer = (responseCode: number, message: string): Error =>
  Object.assign(new Error(message), { responseCode });

/** A small mail server (SMTP, RFC 5321) on the loopback address alone: what it takes lies in a folder, a file each, and goes nowhere. */
export class SmtpStandIn {
  readonly intake = new FaultyIntake();
  private server: SMTPServer | null = null;
  /** messages that lie in the folder; null: nobody looked yet */
  private taken: number | null = null;

  constructor(
    private readonly disk: Disk,
    private readonly root: string,
  ) {}

  async listen(port: number): Promise<number> {
    const { SMTPServer } = await import('smtp-server');
    const server = new SMTPServer({
      ...{ authOptional: false, disabledCommands: ['STARTTLS'], allowInsecureAuth: true, logger: false },
      // It gives up lines at once when it ends.
      closeTimeout: 100,
      onAuth: ({ username, password }, _, done) => {
        const may =
          username === STAND_IN_USER && password === STAND_IN_PASSWORD && !this.intake.faults.refuses;
        if (may) done(null, { user: username });
        else done(answer(NO_ENTRY, 'Who you are is not known here'));
      },
      onRcptTo: ({ address }, _, done) =>
        address.startsWith('nobody@') ? done(answer(NO_BOX, `No box for ${address}`)) : done(),
      onData: (stream, session, done) =>
        void this.take(stream).then(
          () => done(null, 'Taken'),
          (error: unknown) => this.refuse(error, session, done),
        ),
    });
    server.on('error', () => undefined);
    this.server = server;
    return new Promise((resolve, reject) => {
      server.server.once('error', reject);
      server.listen(port, '127.0.0.1', () => resolve((server.server.address() as AddressInfo).port));
    });
  }

  close(): void {
    this.server?.close(() => undefined);
  }

  private async take(stream: SMTPServerDataStream): Promise<void> {
    const all: Buffer[] = [];
    let trouble: unknown = null;
    // A server hears a message out before it says no.
    for await (const chunk of stream as AsyncIterable<Buffer>)
      if (trouble === null)
        await this.intake.take(chunk).then(
          (bytes) => all.push(bytes),
          (error: unknown) => (trouble = error),
        );
    if (trouble instanceof Error) throw trouble;
    this.taken ??= (await this.disk.names(this.root)).length;
    this.taken += 1;
    const file = path.join(this.root, `${String(this.taken).padStart(4, '0')}.eml`);
    await placeNew(this.disk, file, Buffer.concat(all), 'stand-ins');
  }

  private refuse(error: unknown, { id }: SMTPServerSession, done: (error: Error) => void): void {
    if (error instanceof Cut) {
      for (const line of this.server!.connections as Set<{
        id: string;
        close: () => void;
        _socket?: { destroy: () => void };
      }>)
        if (line.id === id) line._socket?.destroy();
      return;
    }
    done(error instanceof Full ? answer(NO_ROOM, 'The box is full') : answer(451, 'Something went wrong'));
  }
}
