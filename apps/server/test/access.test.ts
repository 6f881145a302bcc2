import { X509Certificate } from 'node:crypto';
import { readFileSync, statSync, writeFileSync } from 'node:fs';
import https from 'node:https';
import path from 'node:path';
import { Access } from '../src/access/access.service';
import { Clock } from '../src/system/clock';
import { ended, serverProcess } from './serverProcess';
import { removeFolder, startArkiv, temporaryFolder, type TestArkiv } from './testArkiv';

const PASSWORD = 'five quiet lanterns';

interface Heard {
  status: number;
  body: { code?: string; fingerprint?: string; signedIn?: boolean };
  cookie: string | undefined;
  fingerprint: string;
}

/** A server that other machines could reach, and what it said at its start. */
async function opened(data: string, env: Record<string, string>) {
  const child = serverProcess(data, { ARKIV_HOST: '0.0.0.0', ARKIV_STAND_INS: '0', ...env });
  let said = '';
  child.stdout!.on('data', (chunk: Buffer) => (said += String(chunk)));
  child.stderr!.on('data', (chunk: Buffer) => (said += String(chunk)));
  await new Promise<void>((resolve) => {
    child.stdout!.on('data', () => /https?:\/\/\S+:\d+\/[\s\S]*\n/.test(said) && resolve());
    child.on('exit', () => resolve());
  });
  const port = Number(/:(\d+)\//.exec(said)?.[1] ?? 0);
  const ask = (method: string, where: string, body?: unknown, headers: Record<string, string> = {}) =>
    new Promise<Heard>((resolve, reject) => {
      const request = https.request(
        {
          ...{
            host: '127.0.0.1',
            port,
            path: `/api${where}`,
            method,
            rejectUnauthorized: false,
            agent: false,
          },
          headers: { 'content-type': 'application/json', 'x-arkiv': '1', ...headers },
        },
        (response) => {
          const socket = response.socket as unknown as { getPeerCertificate(): { fingerprint256: string } };
          const { fingerprint256: fingerprint } = socket.getPeerCertificate();
          let text = '';
          response.on('data', (chunk: Buffer) => (text += String(chunk)));
          response.on('end', () =>
            resolve({
              status: response.statusCode!,
              body: (text ? JSON.parse(text) : {}) as Heard['body'],
              cookie: response.headers['set-cookie']?.[0],
              fingerprint,
            }),
          );
        },
      );
      request.on('error', reject);
      request.end(body === undefined ? undefined : JSON.stringify(body));
    });
  return {
    ask,
    said: () => said,
    stop: async () => {
      child.kill('SIGTERM');
      await ended(child);
    },
  };
}

describe('a server that other machines can reach', () => {
  let data: string;
  let passwordFile: string;
  beforeEach(() => {
    data = temporaryFolder();
    passwordFile = path.join(data, 'password.txt');
    writeFileSync(passwordFile, `${PASSWORD}\nwhat follows is a note\n`);
  });
  afterEach(() => removeFolder(data));

  it('does not start without a studio password, and says how to set one', async () => {
    const server = await opened(data, {});
    expect(server.said()).toMatch(
      /not opened to other machines without a studio password.*Studio.*ARKIV_PASSWORD_FILE/,
    );
    await server.stop();
  });

  it('answers by HTTPS alone, and lets in who knows the password', async () => {
    const server = await opened(data, { ARKIV_PASSWORD_FILE: passwordFile });
    try {
      for (const where of ['/settings', '/shoots', '/events', `/previews/v2/${'0'.repeat(64)}/thumb`])
        expect(await server.ask('GET', where)).toMatchObject({
          status: 401,
          body: { code: 'access.needed' },
        });
      await expect(
        fetch(`http://127.0.0.1:${/:(\d+)\//.exec(server.said())![1]}/api/settings`),
      ).rejects.toThrow();
      const wrong = await server.ask('POST', '/session', { password: 'what follows is a note' });
      expect(wrong).toMatchObject({ status: 403, body: { code: 'access.wrong' }, cookie: undefined });
      const { cookie, fingerprint } = await server.ask('POST', '/session', { password: PASSWORD });
      expect(cookie).toMatch(/HttpOnly; Secure; SameSite=Strict/);
      const mine = { cookie: cookie!.split(';')[0]! };
      expect(await server.ask('GET', '/settings', undefined, mine)).toMatchObject({ status: 200 });
      // The certificate is the one that was told at the start, and its key is for nobody else's eyes.
      const { body } = await server.ask('GET', '/machine', undefined, mine);
      expect(server.said()).toContain(body.fingerprint!);
      expect(fingerprint).toBe(body.fingerprint);
      const folder = path.join(data, 'certificate');
      expect(statSync(path.join(folder, 'key.pem')).mode & 0o077).toBe(0);
      const made = new X509Certificate(readFileSync(path.join(folder, 'cert.pem')));
      expect(made.subjectAltName).toMatch(/DNS:localhost.*IP Address:127\.0\.0\.1/);
      // Another site's page cannot use the session, and what is not ours is not let in.
      const foreign = { ...mine, origin: 'https://elsewhere.example' };
      expect(await server.ask('PATCH', '/settings', { studio: 'x' }, foreign)).toMatchObject({ status: 403 });
      await server.ask('DELETE', '/session', undefined, mine);
      expect((await server.ask('GET', '/settings', undefined, mine)).status).toBe(401);
      expect((await server.ask('GET', '/settings', undefined, { cookie: 'arkiv_session=x' })).status).toBe(
        401,
      );
    } finally {
      await server.stop();
    }
  });

  it('keeps its certificate and who is signed in from one start to the next; a new password signs all out', async () => {
    let server = await opened(data, { ARKIV_PASSWORD_FILE: passwordFile });
    const { cookie, fingerprint } = await server.ask('POST', '/session', { password: PASSWORD });
    const mine = { cookie: cookie!.split(';')[0]! };
    await server.stop();
    server = await opened(data, { ARKIV_PASSWORD_FILE: passwordFile });
    try {
      expect(await server.ask('GET', '/shoots', undefined, mine)).toMatchObject({ status: 200, fingerprint });
      const change = (body: object) => server.ask('PUT', '/password', body, mine);
      expect(await change({ password: 'short' })).toMatchObject({
        status: 422,
        body: { code: 'access.weak' },
      });
      expect(await change({ password: 'another long one' })).toMatchObject({ status: 403 });
      expect((await change({ password: 'another long one', current: PASSWORD })).status).toBe(204);
      expect((await server.ask('GET', '/shoots', undefined, mine)).status).toBe(401);
      expect((await server.ask('POST', '/session', { password: 'another long one' })).status).toBe(204);
    } finally {
      await server.stop();
    }
  });

  it('names a certificate that cannot be used', async () => {
    const [cert, key] = [path.join(data, 'cert.pem'), path.join(data, 'key.pem')];
    writeFileSync(cert, 'no certificate');
    writeFileSync(key, 'no key');
    const server = await opened(data, { ARKIV_CERTIFICATE: cert, ARKIV_PRIVATE_KEY: key });
    expect(server.said()).toContain(`The certificate ${cert} cannot be used`);
    await server.stop();
  });
});

describe('guessing the studio password', () => {
  let data: string;
  let arkiv: TestArkiv;
  let access: Access;
  let now: number;
  const guess = (password: string, from = '10.0.0.9') =>
    access.signIn(password, from).catch((e: { code: string }) => e.code);

  beforeAll(async () => {
    data = temporaryFolder();
    arkiv = await startArkiv(data);
    access = arkiv.app.get(Access);
    await access.setPassword(PASSWORD, null, '');
    now = Date.now();
    jest.spyOn(arkiv.app.get(Clock), 'now').mockImplementation(() => now);
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  it('gets slower with each wrong one from an address, the right one included, and lets others be', async () => {
    for (let i = 0; i < 5; i++) expect(await guess(`wrong ${i}`)).toBe('access.wrong');
    expect(await guess(PASSWORD)).toBe('access.slow');
    expect(await guess(PASSWORD, '10.0.0.8')).toHaveLength(43);
    now += 1001;
    expect(await guess('wrong again')).toBe('access.wrong');
    now += 1500;
    expect(await guess(PASSWORD)).toBe('access.slow');
    now += 600;
    expect(await guess(PASSWORD)).toHaveLength(43);
    expect(await guess('wrong')).toBe('access.wrong');
  });

  it('is not quicker in parallel', async () => {
    const answers = await Promise.all(
      Array.from({ length: 12 }, (_, i) => guess(`at once ${i}`, '10.0.0.7')),
    );
    expect(answers.filter((code) => code === 'access.wrong').length).toBeLessThanOrEqual(5);
    expect(answers).toContain('access.slow');
  });

  it('needs no session on this machine alone', async () => {
    expect(await arkiv.get('/session')).toEqual({ required: false, signedIn: true });
  });

  it('ends a session when its time is over', async () => {
    const token = (await guess(PASSWORD, '10.0.0.6')) as string;
    expect(await access.isIn(token)).toBe(true);
    now += 31 * 24 * 60 * 60 * 1000;
    expect(await access.isIn(token)).toBe(false);
  });

  it('takes a password however its letters are composed', async () => {
    await access.setPassword('caf\u00e9 caf\u00e9 caf\u00e9', null, '');
    expect(await guess('cafe\u0301 cafe\u0301 cafe\u0301', '10.0.0.5')).toHaveLength(43);
  });
});
