import { get, post, type Api } from './http';

/** What the compiler says of addresses is held by `npm run types`: a line below that stops being an error is one. */
const never = (): boolean => false;

describe('the server’s contract', () => {
  it('is known to the compiler by address, what is sent and what comes back', async () => {
    if (never()) {
      const id: string = '';
      const step = 'retry' as 'retry' | 'pause';
      const shoot: Api['ShootDto'] = await get(`/shoots/${id}`);
      const totals: Api['ShootTotalsDto'] = await get(`/shoots/totals?find=${id}`);
      const started: { jobId: string } = await post(`/shoots/${id}/handoffs`, { volumeId: id });
      await post(`/jobs/${id}/${step}`);
      // @ts-expect-error there is no such address
      await get(`/shoots/${id}/frame`);
      // @ts-expect-error it is not asked for so
      await post(`/shoots/${id}/frames`);
      // @ts-expect-error nothing says what the step is
      await post(`/jobs/${id}/${id}`);
      // @ts-expect-error a hand-off says where to
      await post(`/shoots/${id}/handoffs`, {});
      // @ts-expect-error a hand-off is begun with something
      await post(`/shoots/${id}/handoffs`);
      // @ts-expect-error the list holds shoots
      const jobs: Api['JobDto'][] = await get('/shoots');
      void [shoot, totals, started, jobs];
    }
    expect(never()).toBe(false);
  });
});
