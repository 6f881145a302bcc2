import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import path from 'node:path';
import { ROOT, SERVER } from '../bootstrap.mjs';

/** Between looks at a job that runs. */
const POLL_MILLIS = 40;

/** The server that is fuzzed, with its folders, and beside these a folder that is nobody's business. */
export class World {
  #server = null;
  #said = '';
  #troubles = [];
  #before = new Map();

  /** `hang`: seconds after which an answer is called missing. */
  constructor(place, hang) {
    this.hang = hang;
    this.places = Object.fromEntries(
      ['data', 'drive', 'cards', 'beside', 'tmp'].map((name) => [name, path.join(place, name)]),
    );
    for (const at of Object.values(this.places)) mkdirSync(at, { recursive: true });
    this.place = place;
    writeFileSync(path.join(this.places.beside, 'a letter.txt'), 'nobody’s business');
    writeFileSync(path.join(this.places.beside, 'A.JPG'), 'a picture of somebody else');
    this.#before = manifest(this.places.beside);
  }

  async start() {
    const server = spawn(process.execPath, SERVER.args, {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: {
        ...process.env,
        ...SERVER.env,
        ...{ ARKIV_DATA: this.places.data, ARKIV_PORT: '0', ARKIV_GALLERY_PORT: '0', ARKIV_STAND_INS: '0' },
        ...{ ARKIV_ARCHIVES: '', TMPDIR: this.places.tmp },
      },
    });
    this.#server = server;
    this.base = await new Promise((resolve, reject) => {
      const hear = (chunk) => {
        this.#said = `${this.#said}${chunk}`.slice(-4000);
        const address = /Arkiv is at (\S+?)\/?\s/.exec(this.#said);
        if (address) resolve(address[1]);
      };
      server.stdout.on('data', hear);
      server.stderr.on('data', hear);
      server.once('exit', (code, signal) => {
        reject(new Error(`the server did not start: ${this.#said}`));
        if (this.#server === server) this.#died(code ?? signal);
      });
    });
    const volumes = await this.json('GET', '/volumes');
    if (volumes.length === 0)
      await this.json('POST', '/volumes', { root: this.places.drive, name: 'Drive', role: 'working' });
    await this.json('PATCH', '/settings', { welcomed: true });
  }

  #died(how) {
    this.#server = null;
    this.#troubles.push({ is: 'crashes', what: `the server ended (${how}): ${this.#said.slice(-600)}` });
  }

  get lives() {
    return this.#server !== null;
  }

  /** What happened since it was asked last. */
  troubles() {
    return this.#troubles.splice(0);
  }

  async stop() {
    const server = this.#server;
    this.#server = null;
    if (!server) return;
    const over = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await over;
  }

  /**
   * Sends what may be no request at all, byte for byte as given, and waits for any answer. An answer that says that the server itself failed is
   * a crash; none in time a hang; a connection that is closed without one is a refusal.
   */
  request(method, address, body, headers = {}) {
    const { hostname, port } = new URL(this.base);
    return new Promise((resolve) => {
      let request;
      const over = (answer) => {
        clearTimeout(timer);
        resolve(answer);
      };
      const timer = setTimeout(() => {
        request?.destroy();
        over({
          status: 0,
          text: '',
          trouble: { is: 'hangs', what: `no answer to ${method} ${shown(address)}` },
        });
      }, this.hang * 1000);
      try {
        request = http.request({
          hostname,
          port,
          method,
          path: address,
          headers: { 'x-arkiv': '1', ...headers },
        });
      } catch {
        // No client can send it.
        return over({ status: 0, text: '' });
      }
      request.on('error', () => over({ status: 0, text: '' }));
      request.on('response', (response) => {
        const all = [];
        response.on('data', (chunk) => all.push(chunk));
        response.on('error', () => over({ status: response.statusCode, text: '' }));
        response.on('end', () => {
          const text = Buffer.concat(all).toString('utf8');
          const failed = response.statusCode === 500 || text.includes('"code":"internal"');
          over({
            ...{ status: response.statusCode, text, headers: response.headers },
            ...(failed && {
              trouble: {
                is: 'crashes',
                what: `${method} ${shown(address)}: ${response.statusCode} ${shown(text)}, asked with ${shown(body)}`,
              },
            }),
          });
        });
      });
      request.end(body);
    });
  }

  /** What a page asks, and is sure to get. */
  async json(method, where, body) {
    const answer = await this.request(method, `/api${where}`, body && JSON.stringify(body), {
      'content-type': 'application/json',
    });
    if (answer.trouble) this.#troubles.push(answer.trouble);
    if (answer.status < 200 || answer.status > 299)
      throw new Error(`${method} ${where}: ${answer.status} ${answer.text.slice(0, 300)}`);
    return answer.text ? JSON.parse(answer.text) : null;
  }

  /** Waits until a job is over. Files are worked on one after another: each has its time. */
  async rest(jobId, files) {
    const until = Date.now() + this.hang * 1000 * (files + 10);
    while (Date.now() < until) {
      const report = await this.json('GET', `/jobs/${jobId}`);
      if (!['queued', 'running'].includes(report.job.state)) return report;
      await new Promise((resolve) => setTimeout(resolve, POLL_MILLIS));
    }
    this.#troubles.push({ is: 'hangs', what: `a job with ${files} files does not end` });
    return null;
  }

  /** Bytes of the server, and of the processes that it started. */
  memory() {
    const sum = { server: 0, others: 0 };
    if (!this.#server) return sum;
    const parents = new Map();
    for (const name of readdirSync('/proc').filter((one) => /^\d+$/.test(one))) {
      try {
        const status = readFileSync(`/proc/${name}/status`, 'utf8');
        parents.set(Number(name), {
          parent: Number(/^PPid:\s+(\d+)/m.exec(status)?.[1]),
          bytes: 1024 * Number(/^VmRSS:\s+(\d+)/m.exec(status)?.[1] ?? 0),
        });
      } catch {
        // It ended meanwhile.
      }
    }
    for (const [id, { bytes }] of parents) {
      let at = id;
      while (at > 1 && at !== this.#server.pid) at = parents.get(at)?.parent ?? 0;
      if (at === this.#server.pid) sum[id === at ? 'server' : 'others'] += bytes;
    }
    return sum;
  }

  /** What was written, changed or taken away where nothing of the server's is. */
  strays() {
    const now = manifest(this.places.beside);
    const problems = [];
    for (const [file, sum] of this.#before)
      if (now.get(file) !== sum) problems.push(`${file} was changed or is gone`);
    for (const file of now.keys()) if (!this.#before.has(file)) problems.push(`${file} came to be`);
    const known = new Set(Object.keys(this.places));
    for (const name of readdirSync(this.place))
      if (!known.has(name)) problems.push(`${name} came to be beside its folders`);
    this.#before = now;
    return problems;
  }
}

const shown = (text) => JSON.stringify(String(text ?? '').slice(0, 200));

function manifest(folder) {
  const found = new Map();
  for (const name of readdirSync(folder, { recursive: true })) {
    const file = path.join(folder, String(name));
    if (statSync(file).isFile())
      found.set(String(name), createHash('sha256').update(readFileSync(file)).digest('hex'));
  }
  return found;
}
