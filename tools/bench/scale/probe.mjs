// Asks an address again and again, and tells how long it took to be answered: what it finds beyond an idle server's time
// is time in which the asked server's own thread answered nobody. `node probe.mjs <url>`; a line on stdin ends it.
import { Agent, get } from 'node:http';

const url = process.argv[2];
const agent = new Agent({ keepAlive: true, maxSockets: 1 });
/** Milliseconds between two questions. */
const PACE = 2;
const took = [];
/** the longest ones, and when each ended */
const worst = [];
let going = true;
process.stdin.once('data', () => (going = false));

const ask = () =>
  new Promise((resolve) => {
    const begun = process.hrtime.bigint();
    get(url, { agent }, (response) => {
      response.resume();
      response.on('end', () => resolve(Number(process.hrtime.bigint() - begun) / 1e6));
    }).on('error', () => resolve(null));
  });

while (going) {
  const millis = await ask();
  if (millis !== null) {
    took.push(millis);
    worst.push({ at: Date.now(), millis });
    if (worst.length > 400) worst.sort((a, b) => b.millis - a.millis).length = 200;
  }
  await new Promise((resolve) => setTimeout(resolve, PACE));
}
took.sort((a, b) => a - b);
const at = (share) => took[Math.min(took.length - 1, Math.floor(took.length * share))];
console.log(
  JSON.stringify({
    n: took.length,
    median: at(0.5),
    p999: at(0.999),
    most: took.at(-1),
    worst: worst.sort((a, b) => b.millis - a.millis).slice(0, 40),
  }),
);
process.exit(0);
