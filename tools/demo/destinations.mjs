// Where the demo's studio sends its sets and its mail: the servers that the demo plays.
import { client } from '../client.mjs';

const NOWHERE = { path: '', url: '', host: '', port: 22, user: '', carried: false };

/** Names two simulated servers as destinations, and the third as the one that carries mail. */
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
  const smtp = of('smtp');
  await put('/mail-account', {
    ...{ host: '127.0.0.1', port: smtp.port, security: 'none', user: smtp.user, password: smtp.password },
    from: 'studio@ockham.example',
  });
}
