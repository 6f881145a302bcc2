// Where the demo's studio sends its sets: the two servers that the demo plays, one of them looked at and trusted.
import { client } from '../client.mjs';

const NOWHERE = { path: '', url: '', host: '', port: 22, user: '', carried: false };

/** Names both simulated servers as destinations. */
export async function destinations(base) {
  const { get, post, put } = client(base);
  const { servers } = await get('/stand-ins');
  const of = (id) => servers.find((server) => server.id === id);
  const { port, user, password } = of('webdav');
  await post('/destinations', {
    ...{ name: 'Pottery’s own server', kind: 'webdav', password },
    reach: { ...NOWHERE, url: `http://127.0.0.1:${port}/`, user },
  });
  const sftp = of('sftp');
  const wish = {
    ...{ name: 'Picture desk', kind: 'sftp' },
    reach: { ...NOWHERE, host: '127.0.0.1', port: sftp.port, user: sftp.user },
  };
  const { id } = await post('/destinations', { ...wish, password: sftp.password });
  const { trusts } = await post(`/destinations/${id}/check`);
  await put(`/destinations/${id}`, { ...wish, trust: trusts });
}
