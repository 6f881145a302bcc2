import https from 'node:https';
import net from 'node:net';
import type { AddressInfo } from 'node:net';
import { OutsideListener } from '../src/outside/outsideListener';
import { guestOf, madeGallery, Visitor } from './galleryVisitor';
import { removeFolder, startArkiv, takenIn, temporaryFolder } from './testArkiv';

interface Place {
  address: string;
  open: boolean;
  problem: string | null;
}
const listening = (arkiv: { app: { get: (what: typeof OutsideListener) => OutsideListener } }): number => {
  const { server } = arkiv.app.get(OutsideListener) as unknown as { server: net.Server };
  return (server.address() as AddressInfo).port;
};

describe('Where galleries are served', () => {
  it('is at a port of their own, on this computer alone, where nothing is said', async () => {
    const data = temporaryFolder();
    const arkiv = await startArkiv(data);
    const place = await arkiv.get<Place>('/gallery-place');
    expect(place).toEqual({ address: `http://127.0.0.1:${listening(arkiv)}`, open: false, problem: null });
    expect(new URL(arkiv.base).port).not.toBe(new URL(place.address).port);
    // Neither serves what is the other's.
    expect((await fetch(`${place.address}/api/health`)).status).toBe(404);
    expect((await fetch(`${arkiv.base}/robots.txt`)).status).not.toBe(200);
    await arkiv.stop();
    removeFolder(data);
  });

  it('says that another program is there, and the archive opens all the same', async () => {
    const other = net.createServer();
    await new Promise<void>((resolve) => other.listen(0, '127.0.0.1', resolve));
    const { port } = other.address() as AddressInfo;
    const data = temporaryFolder();
    const arkiv = await startArkiv(data, undefined, { galleryPort: port });
    expect((await arkiv.get<Place>('/gallery-place')).problem).toContain(`port ${port}`);
    expect(await arkiv.get('/shoots')).toEqual([]);
    await arkiv.stop();
    other.close();
    removeFolder(data);
  });

  it('is told under the name of the server in front of it, which says who asks', async () => {
    const address = 'https://pictures.client.example';
    const { arkiv, data, shootId } = await takenIn('OCK_9971', { galleryAddress: address });
    await arkiv.mark('verdict', 'undecided', 'keep', (await arkiv.frames(shootId)).id[0]!);
    const gallery = await madeGallery(arkiv, shootId);
    const [link] = gallery.links;
    expect(link!.address.startsWith(`${address}/g/`)).toBe(true);
    expect(await arkiv.get<Place>('/gallery-place')).toMatchObject({ address, open: true });
    // As the server in front passes it on.
    const inner = link!.address.replace(address, `http://127.0.0.1:${listening(arkiv)}`);
    const from = (ip: string) => ({
      ...{ host: 'pictures.client.example', 'x-forwarded-for': ip, 'x-forwarded-proto': 'https' },
      origin: address,
    });
    const visitor = new Visitor(inner);
    expect((await visitor.get('', from('203.0.113.9'))).status).toBe(200);
    expect((await visitor.get('', { ...from('203.0.113.9'), host: 'other.example' })).status).toBe(421);
    for (let n = 0; n < 5; n++) await visitor.enter('Eve', 'AAAA-AAAA', from('203.0.113.9'));
    expect((await visitor.enter('Eve', link!.code, from('203.0.113.9'))).status).toBe(429);
    const entered = await visitor.enter('Ana', link!.code, from('203.0.113.10'));
    expect(entered.status).toBe(303);
    expect(String(entered.headers['set-cookie'])).toContain('Secure');
    expect(entered.headers['strict-transport-security']).toBeDefined();
    await arkiv.stop();
    removeFolder(data);
  });

  it('answers a network by HTTPS alone', async () => {
    const { arkiv, data, shootId } = await takenIn('OCK_9971', { galleryHost: '0.0.0.0' });
    await arkiv.mark('verdict', 'undecided', 'keep', (await arkiv.frames(shootId)).id[0]!);
    const { links } = await madeGallery(arkiv, shootId);
    expect(links[0]!.address).toMatch(/^https:/);
    const port = listening(arkiv);
    const path = new URL(links[0]!.address).pathname;
    const status = await new Promise((resolve, reject) => {
      // Its own certificate: nobody vouches for it here.
      https
        .get({ host: '127.0.0.1', port, path, rejectUnauthorized: false }, (response) => {
          response.resume();
          resolve(response.statusCode);
        })
        .on('error', reject);
    });
    expect(status).toBe(200);
    await expect(new Visitor(`http://127.0.0.1:${port}${path}`).get()).rejects.toThrow();
    await expect(
      guestOf({ links: [{ ...links[0]!, address: `http://127.0.0.1:${port}${path}` }] }, 'Ana'),
    ).rejects.toThrow();
    await arkiv.stop();
    removeFolder(data);
  });
});
