import http from 'node:http';
import type { TestArkiv } from './testArkiv';

export interface GalleryShown {
  id: string;
  title: string;
  jobId: string;
  frames: number;
  made: number;
  closedAt: number | null;
  until: number | null;
  becomes: { kind: string; value: unknown } | null;
  other: { fresh: number; gone: number } | null;
  links: { id: string; name: string; address: string; code: string | null; revokedAt: number | null }[];
  guests: { name: string; favourites: number; chosen: number; remarks: number; taken: number }[];
  chosen: { frameId: string; by: string }[];
  remarks: { frameId: string; text: string; by: string; x: number | null; y: number | null }[];
  sent: { by: string } | null;
}

export interface PageShown {
  base: string;
  title: string;
  words: string;
  pictures: { key: string; version: number; name: string; width: number; height: number }[];
  forms: { spec: number; name: string; files: number; bytes: number }[];
  now: {
    me: string;
    rights: Record<string, boolean>;
    most: number | null;
    chosen: Record<string, string>;
    favourites: string[];
    remarks: Record<string, { id: number; text: string; by: string; mine: boolean }[]>;
    sent: { by: string } | null;
    pictures: { count: number; stamp: string };
  };
}

export interface Said {
  status: number;
  headers: http.IncomingHttpHeaders;
  text: string;
  bytes: Buffer;
  json: <T>() => T;
}

/** Somebody's browser at a gallery's address: plain requests, one store of cookies, any header. */
export class Visitor {
  private cookie = '';
  readonly at: URL;
  /** what the browser holds, as it says it */
  get held(): string {
    return this.cookie;
  }

  /** `from`: another address of this machine's than the usual one. */
  constructor(
    address: string,
    private readonly from?: string,
  ) {
    this.at = new URL(address);
  }

  /** `below` the gallery's address; from the root of its server where it begins with `/`. */
  ask(
    method: string,
    below: string,
    body?: string | Buffer,
    headers: http.OutgoingHttpHeaders = {},
  ): Promise<Said> {
    const path = below.startsWith('/')
      ? below
      : below === ''
        ? this.at.pathname
        : `${this.at.pathname}/${below}`;
    const own = this.cookie && { cookie: this.cookie };
    return new Promise((resolve, reject) => {
      const request = http.request(
        {
          host: this.at.hostname,
          port: this.at.port,
          method,
          path,
          headers: { ...own, ...headers },
          localAddress: this.from,
        },
        (response) => {
          const set = response.headers['set-cookie']?.[0]?.split(';')[0];
          if (set) this.cookie = set;
          const all: Buffer[] = [];
          response.on('data', (chunk: Buffer) => all.push(chunk));
          response.on('error', reject);
          response.on('end', () => {
            const bytes = Buffer.concat(all);
            const text = bytes.toString('utf8');
            resolve({
              ...{ status: response.statusCode!, headers: response.headers, bytes, text },
              json: () => JSON.parse(text) as never,
            });
          });
        },
      );
      request.on('error', reject);
      request.end(body);
    });
  }

  get(below = '', headers: http.OutgoingHttpHeaders = {}): Promise<Said> {
    return this.ask('GET', below, undefined, headers);
  }

  enter(name: string, code: string | null, headers: http.OutgoingHttpHeaders = {}): Promise<Said> {
    const form = new URLSearchParams({ name, code: code ?? '' });
    return this.ask('POST', 'in', form.toString(), {
      'content-type': 'application/x-www-form-urlencoded',
      ...headers,
    });
  }

  say(said: object, headers: http.OutgoingHttpHeaders = {}): Promise<Said> {
    return this.ask('POST', 'say', JSON.stringify(said), { 'content-type': 'application/json', ...headers });
  }

  /** What the page is told to show. */
  async page(): Promise<PageShown> {
    const { status, text } = await this.get();
    const data = /<script type="application\/json"[^>]*>([\s\S]*?)<\/script>/.exec(text);
    if (status !== 200 || !data) throw new Error(`no page: ${status} ${text.slice(0, 300)}`);
    return JSON.parse(data[1]!) as PageShown;
  }
}

/** A gallery that is made, as the studio sees it. */
export async function madeGallery(
  arkiv: TestArkiv,
  shootId: string,
  wish: object = {},
): Promise<GalleryShown> {
  const { id, jobId } = await arkiv.post<{ id: string; jobId: string }>(`/shoots/${shootId}/galleries`, {
    ...{ title: 'First look', side: 1024, most: 0, withCode: true },
    rights: { choose: true, remark: true, download: true },
    ...wish,
  });
  const { job } = await arkiv.rest(jobId);
  if (job.state !== 'done') throw new Error(`gallery: ${job.state} ${job.reason}`);
  return galleryOf(arkiv, shootId, id);
}

export const galleryOf = async (arkiv: TestArkiv, shootId: string, id: string): Promise<GalleryShown> =>
  (await arkiv.get<GalleryShown[]>(`/shoots/${shootId}/galleries`)).find((one) => one.id === id)!;

/** Somebody who came in by a gallery's own address, or by another one of its. */
export async function guestOf(
  { links }: Pick<GalleryShown, 'links'>,
  name: string,
  link = links[0]!,
): Promise<Visitor> {
  const visitor = new Visitor(link.address);
  const { status, text } = await visitor.enter(name, link.code);
  if (status !== 303) throw new Error(`${name} was not let in: ${status} ${text.slice(0, 300)}`);
  return visitor;
}
