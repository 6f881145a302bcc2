// A gallery in which a client of the demo's studio has begun to choose.
import { client } from '../client.mjs';

const PAUSE = 150;
/** Milliseconds that its pictures may take on a slow machine. */
const PATIENCE = 120_000;

/** Makes it, and says in it what somebody of the client says, at its own address as they do. */
export async function gallery(base, shootId) {
  const { get, post } = client(base);
  // Where its port is taken there is none to come into.
  if ((await get('/gallery-place')).problem) return;
  const { id, jobId } = await post(`/shoots/${shootId}/galleries`, {
    ...{
      title: 'Autumn catalogue, first look',
      words: 'Please choose eight for the cover and the centre pages.',
    },
    ...{ most: 8, ownPile: true, withCode: true },
    rights: { choose: true, remark: true, download: false },
  });
  for (const begun = Date.now(); (await get(`/jobs/${jobId}`)).job.state !== 'done';) {
    if (Date.now() - begun > PATIENCE) throw new Error('Making a gallery took longer than two minutes.');
    await new Promise((resolve) => setTimeout(resolve, PAUSE));
  }
  const made = (await get(`/shoots/${shootId}/galleries`)).find((one) => one.id === id);
  const [{ address, code }] = made.links;
  const entered = await fetch(`${address}/in`, {
    ...{ method: 'POST', redirect: 'manual' },
    headers: { 'content-type': 'application/x-www-form-urlencoded' },
    body: `name=Wilma&code=${code}`,
  });
  const cookie = entered.headers.get('set-cookie').split(';')[0];
  const page = await (await fetch(address, { headers: { cookie } })).text();
  const keys = [...page.matchAll(/data-key="([^"]+)"/g)].map(([, key]) => key);
  const say = (said) =>
    fetch(`${address}/say`, {
      ...{ method: 'POST', body: JSON.stringify(said) },
      headers: { cookie, 'content-type': 'application/json' },
    });
  for (const key of keys.slice(0, 3)) await say({ kind: 'choice', key, on: true });
  await say({ kind: 'favourite', key: keys[1], on: true });
  await say({
    ...{ kind: 'remark', key: keys[2], text: 'Could the glaze on this side be a little lighter?' },
    ...{ x: 0.62, y: 0.55 },
  });
}
