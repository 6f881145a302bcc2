import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { DEFAULT_MESSAGES, filledMessage } from '@arkiv/core';
import PostalMime from 'postal-mime';
import { MessageLedger } from '../src/ledger/messageLedger';
import { UnitOfWork } from '../src/db/unitOfWork';
import { MessagesService } from '../src/messages/messages.service';
import { galleryOf, madeGallery, type GalleryShown } from './galleryVisitor';
import { removeFolder, takenIn, until, type TestArkiv } from './testArkiv';

interface Shown {
  id: string;
  to: string;
  subject: string;
  text: string;
  state: string;
  reason: string | null;
  kind: string;
  attached: { name: string; bytes: number; sha256: string }[];
}

describe('What clients are written', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];
  let gallery: GalleryShown;
  let port: number;
  const PASSWORD = 'stand-in';

  beforeAll(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9971'));
    ({ id: ids } = await arkiv.frames(shootId));
    await arkiv.mark('verdict', 'undecided', 'keep', ...ids.slice(0, 3));
    gallery = await madeGallery(arkiv, shootId);
    for (const name of ['Wilma', 'Jörg'])
      await arkiv.post(`/galleries/${gallery.id}/links`, {
        ...{ name, withCode: true, rights: { choose: true, remark: true, download: false } },
      });
    gallery = await galleryOf(arkiv, shootId, gallery.id);
    const { servers } = await arkiv.get<{ servers: { id: string; port: number }[] }>('/stand-ins');
    ({ port } = servers.find(({ id }) => id === 'smtp')!);
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const account = (more: object = {}) =>
    arkiv.ask<{ code: string }>('PUT', '/mail-account', {
      ...{ host: '127.0.0.1', port, security: 'none', user: 'studio', from: 'studio@ockham.example' },
      ...{ password: PASSWORD, ...more },
    });
  const play = (faults: object) => arkiv.ask('PUT', '/stand-ins/servers/smtp', faults);
  const box = () => path.join(data, 'stand-ins/servers/mailbox');
  const mails = () =>
    Promise.all(
      readdirSync(box())
        .sort()
        .map((file) => PostalMime.parse(readFileSync(path.join(box(), file)))),
    );
  const link = (name: string) => gallery.links.find((one) => one.name === name)!;
  const words = (name: string, to: string) => ({
    ...filledMessage(DEFAULT_MESSAGES.invite, {
      ...{
        name,
        title: gallery.title,
        link: link(name).address,
        code: link(name).code!,
        pictures: '3 pictures',
      },
    }),
    ...{ linkId: link(name).id, to },
  });
  const write = (...messages: object[]) =>
    arkiv.ask<{ code: string }>('POST', `/galleries/${gallery.id}/messages`, { kind: 'invite', messages });
  const list = () => arkiv.get<Shown[]>(`/shoots/${shootId}/messages`);
  /** The newest messages, when none is under way any more. */
  const rested = async (): Promise<Shown[]> => {
    await until(async () => (await list()).every(({ state }) => !['waiting', 'sending'].includes(state)));
    return list();
  };

  it('goes nowhere before a mail server is named, and none is asked unencrypted over a network', async () => {
    const { body } = await write(words('Wilma', 'wilma@client.example'));
    expect(body.code).toBe('mail.none');
    expect(await list()).toEqual([]);
    expect((await account({ host: 'mail.example' })).body.code).toBe('request.invalid');
    expect((await account({ host: 'mail.example:25' })).status).toBe(400);
    expect((await account({ from: 'nobody' })).status).toBe(400);
    expect(await arkiv.get('/mail-account')).toMatchObject({ host: '', opens: false });
  });

  it('is tried without a message, and says who was not let in', async () => {
    expect((await account({ password: 'wrong' })).status).toBe(204);
    const check = async () => (await arkiv.ask<{ code: string }>('POST', '/mail-account/check')).body?.code;
    expect(await check()).toBe('mail.login');
    await account({ port: 1 });
    expect(await check()).toBe('mail.away');
    await account();
    expect(await check()).toBeUndefined();
    expect(await mails()).toEqual([]);
    expect(await arkiv.get('/mail-account')).toMatchObject({ host: '127.0.0.1', opens: true });
    // Another name is not let in by this one's password.
    await account({ user: 'other', password: undefined });
    expect(await arkiv.get('/mail-account')).toMatchObject({ opens: false });
    await account();
  });

  it('comes to each as it was seen, with the address alone kept of what opens a gallery', async () => {
    await arkiv.ask('PATCH', '/settings', { studio: 'Ockham & Töchter' });
    const sent = [words('Wilma', 'wilma@client.example'), words('Jörg', 'joerg@client.example')];
    expect((await write(...sent)).status).toBe(204);
    const kept = await rested();
    expect(kept.map(({ to, state, reason }) => [to, state, reason])).toEqual([
      ['joerg@client.example', 'sent', null],
      ['wilma@client.example', 'sent', null],
    ]);
    const [toWilma, toJoerg] = await mails();
    expect(toWilma!.to).toEqual([{ name: '', address: 'wilma@client.example' }]);
    expect(toWilma!.from).toEqual({ name: 'Ockham & Töchter', address: 'studio@ockham.example' });
    expect(toWilma!.subject).toBe('Your pictures: First look');
    expect(toJoerg!.text!.replaceAll('\r\n', '\n').trim()).toBe(sent[1]!.text);
    expect(toJoerg!.text).toContain(link('Jörg').code);
    const [shown] = await arkiv.get<{ to: string; subject: string; text: string }[]>('/stand-ins/mailbox');
    expect(shown).toMatchObject({
      to: 'joerg@client.example',
      subject: toJoerg!.subject,
      text: toJoerg!.text,
    });
    // What is kept opens nothing.
    expect(kept[0]!.text).toContain(link('Jörg').address);
    for (const { code } of gallery.links) expect(JSON.stringify(kept)).not.toContain(code);
    const rows = JSON.stringify(await arkiv.app.get(MessageLedger).ofShoot(shootId));
    expect(rows).not.toContain(link('Jörg').code);
  });

  it('is refused where its server refuses, one apart from the other, and says why', async () => {
    const before = (await mails()).length;
    await write(words('Wilma', 'nobody@client.example'), words('Jörg', 'joerg@client.example'));
    const [joerg, nobody] = await rested();
    expect([joerg!.state, nobody!.state]).toEqual(['sent', 'refused']);
    expect(nobody!.reason).toMatch(/takes nothing for nobody@client\.example: .*No box/);
    await play({ bytesUntilFull: 10 });
    await write(words('Jörg', 'joerg@client.example'));
    const [full] = await rested();
    expect([full!.state, full!.reason]).toEqual(['refused', expect.stringMatching(/The box is full/)]);
    await play({ bytesUntilFull: null, refuses: true });
    await write(words('Jörg', 'joerg@client.example'));
    expect((await rested())[0]).toMatchObject({
      state: 'refused',
      reason: expect.stringMatching(/password/),
    });
    await play({ refuses: false });
    expect(await mails()).toHaveLength(before + 1);
  });

  it('is not known to have gone where the line breaks in its middle, and is not sent again by itself', async () => {
    const before = (await mails()).length;
    await play({ cutAfterBytes: 10 });
    await write(words('Jörg', 'joerg@client.example'));
    const [cut] = await rested();
    expect([cut!.state, cut!.reason]).toEqual([
      'unknown',
      expect.stringMatching(/not known whether it went/),
    ]);
    expect(await mails()).toHaveLength(before);
  });

  it('has pictures made by a spec beside it, as heavy as was said, and these stand in the ledger', async () => {
    await arkiv.ask('PATCH', '/settings', { creator: 'Ines Ockham' });
    const specs = (await arkiv.get<{ outputSpecs: { name: string }[] }>('/settings')).outputSpecs;
    const asked = { frameIds: ids.slice(0, 2), spec: specs[0]!.name };
    const made = await arkiv.post<{ name: string; bytes: number }[]>(
      `/shoots/${shootId}/picture-messages/made`,
      asked,
    );
    const message = { to: 'desk@paper.example', subject: 'Two of the press night', text: 'Grüße' };
    await arkiv.post(`/shoots/${shootId}/picture-messages`, { ...asked, message });
    const [kept] = await rested();
    expect(kept).toMatchObject({ kind: 'pictures', state: 'sent', to: 'desk@paper.example' });
    const { attachments } = (await mails()).at(-1)!;
    expect(
      attachments.map(({ filename, content }) => [filename, (content as ArrayBuffer).byteLength]),
    ).toEqual(made.map(({ name, bytes }) => [name, bytes]));
    const bytes = Buffer.from(attachments[0]!.content as ArrayBuffer);
    expect(createHash('sha256').update(bytes).digest('hex')).toBe(kept!.attached[0]!.sha256);
    const file = path.join(data, 'attached.jpg');
    writeFileSync(file, bytes);
    expect(execFileSync('exiftool', ['-s3', '-XMP-dc:Creator', file], { encoding: 'utf8' })).toBe(
      'Ines Ockham\n',
    );
    const { entries } = await arkiv.get<{ entries: object[] }>(`/ledger?frameId=${ids[1]}`);
    expect(entries[0]).toMatchObject({ kind: 'mail', name: 'desk@paper.example', frames: 2, files: 2 });
    const out = await arkiv.get<{ frameId: string }[]>(`/shoots/${shootId}/went-out`);
    expect(out.map(({ frameId }) => frameId).sort()).toEqual(ids.slice(0, 2).sort());
  });

  it('stands in no ledger where its server did not take it', async () => {
    const before = (await arkiv.get<{ entries: object[] }>(`/ledger?shootId=${shootId}`)).entries.length;
    await play({ bytesUntilFull: 10 });
    const spec = (await arkiv.get<{ outputSpecs: { name: string }[] }>('/settings')).outputSpecs[0]!.name;
    const message = { to: 'desk@paper.example', subject: 'One', text: 'Here' };
    await arkiv.post(`/shoots/${shootId}/picture-messages`, { frameIds: [ids[2]], spec, message });
    expect((await rested())[0]!.state).toBe('refused');
    await play({ bytesUntilFull: null });
    const { entries } = await arkiv.get<{ entries: object[] }>(`/ledger?shootId=${shootId}`);
    expect(entries).toHaveLength(before);
  });

  it.each([
    ['two lines of subject', { subject: 'a\r\nBcc: all@client.example' }],
    ['no address', { to: 'wilma' }],
    ['two addresses', { to: 'a@client.example, b@client.example' }],
    ['no words', { text: ' ' }],
  ])('is not written with %s', async (_, change) => {
    const { status } = await write({ ...words('Wilma', 'wilma@client.example'), ...change });
    expect(status).toBe(400);
  });

  it('tells only of links of its own gallery that open something', async () => {
    const other = await madeGallery(arkiv, shootId, { title: 'Other' });
    const foreign = { ...words('Wilma', 'wilma@client.example'), linkId: other.links[0]!.id };
    expect((await write(foreign)).body.code).toBe('not-found');
    await arkiv.post(`/galleries/${other.id}/close`);
    const { body } = await arkiv.ask<{ code: string }>('POST', `/galleries/${other.id}/messages`, {
      ...{ kind: 'invite', messages: [foreign] },
    });
    expect(body.code).toBe('gallery.closed');
  });

  it('that was under way when the server ended is not sent by the next start, and says what is known', async () => {
    const before = (await mails()).length;
    const [newest] = await list();
    const ledger = arkiv.app.get(MessageLedger);
    const [row] = await ledger.ofShoot(shootId);
    await arkiv.app.get(UnitOfWork).write(async (manager) => {
      const left = (id: string, state: 'waiting' | 'sending') => ({
        ...{
          ...row!,
          id: `${newest!.id.slice(0, 24)}${id}`,
          state,
          reason: null,
          sentAt: null,
          at: row!.at + 1,
        },
      });
      await ledger.open(manager, [left('00', 'waiting'), left('01', 'sending')]);
    });
    await arkiv.app.get(MessagesService).onApplicationBootstrap();
    const all = await list();
    const reasonOf = (end: string) => all.find(({ id }) => id === `${newest!.id.slice(0, 24)}${end}`)!;
    expect(reasonOf('00')).toMatchObject({
      state: 'refused',
      reason: expect.stringMatching(/before it went/),
    });
    expect(reasonOf('01')).toMatchObject({ state: 'unknown', reason: expect.stringMatching(/not known/) });
    expect(await mails()).toHaveLength(before);
  });

  it('leaves its server’s password in no row', () => {
    // “stand-in” is also the name of folders: as a password it would stand in quotes.
    const rows = execFileSync('strings', [path.join(data, 'archive.sqlite')], {
      encoding: 'utf8',
      maxBuffer: 1e9,
    });
    expect(rows).not.toContain(`"password":"${PASSWORD}"`);
  });
});
