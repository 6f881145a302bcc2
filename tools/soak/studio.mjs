// A studio's day, again and again on one server: a card, its cull, finds, a hand-off, an export, the bin; and what goes wrong in such a week.
import { execFile } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, readdirSync, renameSync, rmSync, truncateSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { promisify } from 'node:util';
import { ROOT } from '../bootstrap.mjs';

const require = createRequire(path.join(ROOT, 'apps/server/package.json'));
const { ulid } = require('ulid');
const { previewAddress } = require('@arkiv/core');

/** Files of the demo's card that make a day: pairs, JPEGs alone and voice notes, some sixty frames in five takes. */
const WANTED = /OCK_99\d\d\.(JPG|DNG|WAV)$/;
/** Milliseconds between two looks at a job, and after which one does not end: a hundred times what it takes. */
const LOOK = 50;
const LONGEST = 300_000;

/** What goes wrong, by the day of a week of ten. */
const TROUBLES = { 3: 'drive', 5: 'card', 7: 'spoilt', 9: 'window' };

export class Studio {
  /** `place`: an empty folder; `template`: the demo's card. */
  constructor(place, template) {
    this.template = template;
    this.places = Object.fromEntries(
      ['data', 'a', 'b', 'card'].map((name) => [name, path.join(place, name)]),
    );
    for (const name of ['data', 'a', 'b']) mkdirSync(this.places[name], { recursive: true });
  }

  /** `server`: that which runs all the time. */
  async open(server) {
    this.server = server;
    this.targets = [];
    for (const [name, role] of [
      ['a', 'working'],
      ['b', 'backup'],
    ]) {
      const { id } = await server.post('/volumes', { root: this.places[name], name, role });
      await server.patch(`/volumes/${id}`, { device: name });
      this.targets.push(id);
    }
  }

  /** Plays day `n`; returns its frames, and how long each part took, in seconds. */
  async day(n) {
    const took = {};
    const timed = async (part, work) => {
      const begun = performance.now();
      const result = await work();
      took[part] = (performance.now() - begun) / 1000;
      return result;
    };
    const trouble = TROUBLES[n % 10];
    await this.makeCard(n, trouble);
    const window = this.watches(trouble);
    const { shootId, reader } = await timed('intake', () => this.takeIn(n, trouble));
    const frames = (await this.server.frames(shootId)).columns;
    took.intake /= frames.id.length;
    await timed('look', () => this.look(frames));
    await timed('marks', () => this.cull(frames));
    await timed('find', () => this.find(n));
    await timed('hand', () => this.handOut(shootId));
    await timed('bin', () => this.tidy(shootId, reader, n));
    window.abort();
    return { frames: frames.id.length, took };
  }

  /** The evening's card with the day's times: no file is the one of another day. */
  async makeCard(n, trouble) {
    const { card } = this.places;
    rmSync(card, { recursive: true, force: true });
    cpSync(this.template, card, {
      recursive: true,
      filter: (file) => !path.extname(file) || WANTED.test(file),
    });
    const shift = `0:0:${n} 0:0:0`;
    // Not waited for at a standstill: that the server closes an idle connection would not be heard meanwhile.
    await promisify(execFile)('exiftool', [
      ...['-q', '-q', '-r', '-overwrite_original', '-P', `-AllDates+=${shift}`],
      ...['-ext', 'jpg', '-ext', 'dng', card],
    ]);
    if (trouble !== 'spoilt') return;
    const [first] = readdirSync(card, { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile() && entry.name.endsWith('.JPG'))
      .map((entry) => path.join(entry.parentPath, entry.name));
    // A picture that its body did not end.
    truncateSync(first, 3000);
  }

  /** A window that looks on; on a bad day ten more go without saying so. */
  watches(trouble) {
    const open = () => {
      const stop = new AbortController();
      void fetch(`${this.server.base}/api/events`, { signal: stop.signal })
        .then(async ({ body }) => {
          for await (const part of body) void part;
        })
        .catch(() => undefined);
      return stop;
    };
    for (let i = 0; i < (trouble === 'window' ? 10 : 0); i++) {
      const gone = open();
      setTimeout(() => gone.abort(), 200 + 20 * i);
    }
    return open();
  }

  async takeIn(n, trouble) {
    const { server } = this;
    const { card, b } = this.places;
    const reader =
      (await server.get('/readers')).find(({ name }) => name === 'card') ??
      (await server.post('/readers', { root: card, name: 'card' }));
    await server.put(`/readers/${reader.id}/device`, { device: 'card' });
    const { fingerprint } = await server.get(`/readers/${reader.id}/card`);
    const { pattern, folders } = await server.get('/settings');
    const date = new Date(Date.UTC(2026, 9, 16) + n * 86_400_000).toISOString().slice(0, 10);
    const { jobId, shootId } = await server.post('/intakes', {
      ...{
        readerId: reader.id,
        fingerprint,
        title: `Day ${n}`,
        date,
        client: 'Lantern Row',
        place: 'Mill Stage',
      },
      ...{ pattern, folders, seqStart: 1, zoneMinutes: 120, targets: this.targets },
    });
    const away = { drive: b, card }[trouble];
    if (away) {
      // In the midst of it, and back a moment later.
      renameSync(away, `${away}-away`);
      await new Promise((resolve) => setTimeout(resolve, 1000));
      if (existsSync(away)) rmSync(away, { recursive: true });
      renameSync(`${away}-away`, away);
    }
    const { job } = await this.rest(jobId);
    if (away) {
      if (job.state === 'waiting') await server.post(`/jobs/${jobId}/resume`);
      await this.rest(jobId);
      if ((await server.get(`/jobs/${jobId}`)).job.filesFailed > 0) await server.post(`/jobs/${jobId}/retry`);
      await this.rest(jobId);
      const missing = await server.post('/copies/missing').catch((error) => {
        // Refused where none is missing.
        if (!error.message.includes('copies.none')) throw error;
        return null;
      });
      if (missing) await this.rest(missing.jobId);
    }
    const end = (await this.rest(jobId)).job;
    if (end.state !== 'done' || end.filesFailed > 0)
      throw new Error(`day ${n} (${trouble ?? 'a good one'}): the intake is ${end.state}, ${end.reason}`);
    return { shootId, reader };
  }

  /** All small pictures, as a sheet asks for them, and each tenth large. */
  async look({ picture }) {
    const waiting = picture.flatMap((one, i) =>
      one === null
        ? []
        : i % 10 === 0
          ? [previewAddress(one, 'thumb'), previewAddress(one, 'screen')]
          : [previewAddress(one, 'thumb')],
    );
    const left = waiting.values();
    const lane = async () => {
      for (const address of left) {
        const answer = await fetch(`${this.server.base}${address}`);
        await answer.arrayBuffer();
      }
    };
    await Promise.all([lane(), lane(), lane()]);
  }

  /** Frame by frame as keys do it; each tenth is taken back again. */
  async cull({ id, verdict }) {
    for (const [i, subject] of id.entries()) {
      const kind = i % 4 === 3 ? 'stars' : 'verdict';
      const [from, to] = kind === 'stars' ? [0, 3] : [verdict[i], i % 3 === 0 ? 'keep' : 'reject'];
      const one = { id: ulid(), subject, kind, from, to, at: Date.now(), group: ulid(), window: 'soak' };
      await this.server.post('/marks', { operations: [one] });
      if (i % 10 === 9)
        await this.server.post('/marks', {
          operations: [{ ...one, id: ulid(), from: to, to: from, group: ulid(), undoes: one.group }],
        });
    }
    const group = ulid();
    await this.server.post('/marks', {
      operations: id.slice(0, 20).map((subject, i) => ({
        ...{ id: ulid(), subject, kind: 'caption', from: '', to: `The red curtain, ${i}`, at: Date.now() },
        ...{ group, window: 'soak' },
      })),
    });
  }

  /** Twenty questions, typed as they come. */
  async find(n) {
    const lines = ['curtain', `Day ${n}`, 'Lantern Row', 'stars 3', 'verdict keep'];
    for (let i = 0; i < 20; i++)
      await this.server.post('/find', { line: lines[i % lines.length], heading: 'shoot' });
  }

  /** Keepers to editing, and two sizes of them to the client. */
  async handOut(shootId) {
    const [volumeId] = this.targets;
    const { jobId } = await this.server.post(`/shoots/${shootId}/handoffs`, { volumeId, part: 'all' });
    await this.rest(jobId);
    const spec = {
      ...{ name: 'Web', size: { by: 'long', pixels: 200 }, format: 'jpeg', quality: 80, mostBytes: null },
      ...{
        space: 'srgb',
        sharpen: 'none',
        watermark: null,
        pattern: '{number:2}',
        metadata: 'all',
        folders: 'none',
      },
    };
    const set = await this.server.post(`/shoots/${shootId}/deliveries`, {
      ...{ name: 'Set', volumeId, sheet: true, specs: [spec] },
    });
    await this.rest(set.jobId);
  }

  /** Rejects into the bin, the bin emptied each fifth day, the card cleared, some copies read again. */
  async tidy(shootId, reader, n) {
    const { server } = this;
    const { jobId } = await server.post('/bin', { deed: 'bin', shootId });
    await this.rest(jobId);
    if (n % 5 === 4) {
      const typed = (await server.get('/bin')).times.reduce((sum, { frames }) => sum + frames, 0);
      const emptied = await server.post('/bin/empty', { typed });
      await this.rest(emptied.jobId);
    }
    const { fingerprint } = await server.get(`/readers/${reader.id}/card`);
    await server.post(`/readers/${reader.id}/clear`, { fingerprint });
    await this.atRest();
    if (n % 5 === 2) {
      const { jobId: again } = await server.post('/copies/verifications', { shootId });
      await this.rest(again);
    }
  }

  async rest(jobId) {
    for (const end = Date.now() + LONGEST; Date.now() < end;) {
      const report = await this.server.get(`/jobs/${jobId}`);
      if (!['queued', 'running'].includes(report.job.state)) return report;
      await new Promise((resolve) => setTimeout(resolve, LOOK));
    }
    throw new Error(`job ${jobId} does not end`);
  }

  async atRest() {
    for (const end = Date.now() + LONGEST; Date.now() < end;) {
      if ((await this.server.get('/jobs')).every(({ state }) => !['queued', 'running'].includes(state)))
        return;
      await new Promise((resolve) => setTimeout(resolve, LOOK));
    }
    throw new Error('the jobs do not come to rest');
  }
}
