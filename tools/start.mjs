// `npm start`: Arkiv on your own pictures: installs and builds what is missing, starts, and prints the address.
//   -- --data FOLDER   another place for the archive's index than the operating system's data folder (or ARKIV_DATA)
//   -- --port N        another port than 4750 (or ARKIV_PORT)
import path from 'node:path';
import { spawn } from 'node:child_process';
import { ensureBuilt, ensureInstalled, SERVER } from './bootstrap.mjs';

const args = process.argv.slice(2);
const value = (name) => (args.includes(name) ? args[args.indexOf(name) + 1] : undefined);
const [data, port] = [value('--data'), value('--port')];

await ensureInstalled();
await ensureBuilt();
const server = spawn(process.execPath, SERVER.args, {
  stdio: 'inherit',
  env: {
    ...process.env,
    ...SERVER.env,
    ...(data === undefined ? {} : { ARKIV_DATA: path.resolve(data) }),
    ...(port === undefined ? {} : { ARKIV_PORT: port }),
    // Simulated devices are for the demo: nobody's own archive may be played with.
    ARKIV_STAND_INS: '0',
  },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code, signal) => process.exit(code ?? (signal ? 1 : 0)));
