import { UploadQueue, wayTo } from '@arkiv/sending';
import { get, post } from './http';

/** What this window sends. It goes on while other screens are looked at. */
export const uploads = new UploadQueue(
  wayTo({
    endpoint: '/api/uploads/streams',
    headers: { 'x-arkiv': '1' },
    worker: () => new Worker(new URL('../workers/hash.worker.ts', import.meta.url), { type: 'module' }),
    prove: async (upload, id, sha256) => void (await post(`/uploads/${upload}/files/${id}`, { sha256 })),
    whole: async (upload) => (await get(`/uploads/${upload}/files`)).map(({ sha256 }) => sha256),
  }),
);

addEventListener('beforeunload', (event) => {
  if (uploads.isBusy) event.preventDefault();
});
