// `npm start`: Arkiv on your own pictures: installs and builds what is missing, starts, and prints the address.
//   -- --archive FOLDER   another archive than the usual one: its data folder, new or there already (or ARKIV_DATA)
//   -- --port N           a port of its own (or ARKIV_PORT); without one it answers where it did last, or at 4750 and after
import path from 'node:path';
import { spawn } from 'node:child_process';
import { ensureBuilt, ensureInstalled, SERVER } from './bootstrap.mjs';

const args = process.argv.slice(2);
const value = (name) => (args.includes(name) ? args[args.indexOf(name) + 1] : undefined);
// `--data` was its name while there was but one.
const [data, port] = [value('--archive') ?? value('--data'), value('--port')];

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
