import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { Destination, type DestinationKind, type Reach } from './destination.entity';
import { RemoteError, type Target } from './remote/remote';
import { Remotes } from './remotes';
import { SecretBox } from '../access/secretBox';

/** What opens a destination; what is left out stays as it is. */
export interface Opens {
  password?: string;
  privateKey?: string;
  passphrase?: string;
}

/** A destination as somebody describes it. */
export interface DestinationWish extends Opens {
  name: string;
  kind: DestinationKind;
  reach: Omit<Reach, 'hostKey'>;
  /** the server's key is trusted from now on, whatever it was before */
  trust?: string | null;
}

export interface CheckedDestination {
  /** an SFTP server's key that nobody has trusted yet; null: there is nothing to trust */
  trusts: string | null;
}

/** Where sets are copied to, and what opens it. */
@Injectable()
export class DestinationsService {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly box: SecretBox,
    private readonly remotes: Remotes,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  all(): Promise<Destination[]> {
    return this.reading.manager.find(Destination, { order: { name: 'ASC', id: 'ASC' } });
  }

  async get(id: string): Promise<Destination> {
    const found = await this.reading.manager.findOneBy(Destination, { id });
    if (!found) throw new ArkivError('not-found', { what: 'destination', id });
    return found;
  }

  /** Keeps a new one, or changes one. Throws `destination.exists` for a name that another one has. */
  async keep(id: string | null, wish: DestinationWish): Promise<Destination> {
    const before = id === null ? null : await this.get(id);
    const name = wish.name.trim();
    const other = (await this.all()).find(
      (one) => one.id !== id && one.name.toLowerCase() === name.toLowerCase(),
    );
    if (other) throw new ArkivError('destination.exists', { name: other.name });
    const own = before?.id ?? this.ids.newId();
    const moved = before !== null && placeOf(wish.kind, wish.reach) !== placeOf(before.kind, before.reach);
    const kept = before && !moved ? before.reach.hostKey : null;
    const destination: Destination = {
      ...{ id: own, name, kind: wish.kind, createdAt: before?.createdAt ?? this.clock.now() },
      reach: { ...wish.reach, hostKey: wish.trust === undefined ? kept : wish.trust },
      secret: await this.secretOf(wish, before, own),
    };
    await this.work.write(async (manager) => {
      await manager.save(Destination, destination);
      this.happenings.after(manager, 'destinations', {});
    });
    return destination;
  }

  /** Forgets how it is reached. What was sent there stays in the ledger. */
  async forget(id: string): Promise<void> {
    await this.get(id);
    await this.work.write(async (manager) => {
      await manager.delete(Destination, { id });
      this.happenings.after(manager, 'destinations', {});
    });
  }

  /** Whether it can be written to and read from. Throws `destination.*`. */
  async check(id: string): Promise<CheckedDestination> {
    const destination = await this.get(id);
    try {
      const { key } = await this.remotes.check(await this.target(destination));
      return { trusts: key };
    } catch (error) {
      throw destinationError(error, destination.name);
    }
  }

  /** How it is reached, with what opens it: for the process that speaks to it alone. */
  async target({ id, name, kind, reach, secret }: Destination): Promise<Target> {
    const opens = (secret === null ? {} : await this.box.unlock(secret, id, name)) as Opens;
    const { path, url, host, port, user, hostKey } = reach;
    switch (kind) {
      case 'folder':
        return { kind, path };
      case 'webdav':
        return { kind, url, user, password: opens.password ?? '' };
      case 'sftp':
        return {
          ...{ kind, host, port, user, path, hostKey },
          password: opens.password || null,
          privateKey: opens.privateKey || null,
          passphrase: opens.passphrase || null,
        };
    }
  }

  private async secretOf(
    { password, privateKey, passphrase }: Opens,
    before: Destination | null,
    id: string,
  ): Promise<string | null> {
    const given = { password, privateKey, passphrase };
    if (Object.values(given).every((value) => value === undefined)) return before?.secret ?? null;
    // A secret of before that cannot be opened any more is given anew.
    const kept = before?.secret
      ? await this.box.unlock(before.secret, id, before.name).catch(() => ({}))
      : {};
    const opens = Object.fromEntries(
      Object.entries({
        ...kept,
        ...Object.fromEntries(Object.entries(given).filter(([, v]) => v !== undefined)),
      }).filter(([, value]) => value !== ''),
    );
    return Object.keys(opens).length === 0 ? null : this.box.lock(opens, id);
  }
}

/** Where it is, as it is shown: nothing secret is in it. */
export function placeOf(
  kind: DestinationKind,
  { path, url, host, port, user }: Omit<Reach, 'hostKey'>,
): string {
  if (kind === 'folder') return path;
  if (kind === 'webdav') return url;
  return `sftp://${user}@${host}${port === 22 ? '' : `:${port}`}${path === '' ? '' : `/${path.replace(/^\//, '')}`}`;
}

/** What a destination's trouble is called. */
export function destinationError(error: unknown, name: string): unknown {
  if (!(error instanceof RemoteError)) return error;
  const details = { name, reason: error.message };
  switch (error.trouble) {
    case 'refused':
      return new ArkivError('destination.refused', details);
    case 'away':
      return new ArkivError('destination.away', details);
    case 'full':
      return new ArkivError('destination.full', details);
    case 'exists':
      return new ArkivError('destination.taken', details);
    case 'changed':
      return new ArkivError('destination.changed', details);
    case 'source':
      return new ArkivError('destination.source', details);
    case 'hostkey':
      return new ArkivError('destination.key', details);
    case 'folder':
      return new ArkivError('destination.folder', details);
    case 'failed':
      return new ArkivError('destination.failed', details);
  }
}
