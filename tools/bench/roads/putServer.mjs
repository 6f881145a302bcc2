// The floor of an upload: takes files by PUT into a folder, flushed and checksummed on the way. `node putServer.mjs <folder>`; says its port.
import { createHash } from 'node:crypto';
import { open } from 'node:fs/promises';
import { createServer } from 'node:http';
import path from 'node:path';

const [folder] = process.argv.slice(2);

const server = createServer(async (request, response) => {
  const file = await open(path.join(folder, path.basename(decodeURIComponent(request.url))), 'wx');
  const hash = createHash('sha256');
  for await (const part of request) {
    hash.update(part);
    await file.write(part);
  }
  await file.sync();
  await file.close();
  response.end(hash.digest('hex'));
});
server.listen(0, '127.0.0.1', () => console.log(server.address().port));
