import http from 'node:http';
import https from 'node:https';
import type { AddressInfo } from 'node:net';
import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { certificateFor } from '../access/certificate';
import { ArkivConfig, isLoopback } from '../config/config';
import { Disk } from '../disk/disk';
import { Clock } from '../system/clock';
import { hostShown } from '../system/hostShown';
import { OutsideApp } from './outsideApp';

/** How far above the archive's own port it is, where nothing else is said: two are the demo's servers'. */
const ABOVE = 3;
/** A client's line may be slow, but headers that take longer are nobody's. */
const HEADERS_WITHIN = 20_000;

/** Serves what people outside reach at a port of its own, so that it may face a network while the archive does not. */
@Injectable()
export class OutsideListener implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('galleries');
  private server: http.Server | https.Server | null = null;
  private problem: string | null = 'they are not served yet';

  constructor(
    private readonly config: ArkivConfig,
    private readonly app: OutsideApp,
    private readonly disk: Disk,
    private readonly clock: Clock,
  ) {}

  /** A port that is taken keeps nobody from the archive. */
  async onApplicationBootstrap(): Promise<void> {
    const { galleryPort, port, galleryHost: host } = this.config;
    const wanted = galleryPort >= 0 ? galleryPort : port === 0 ? 0 : port + ABOVE;
    try {
      this.server = await this.listen(wanted, host);
      this.problem = null;
    } catch (error) {
      const { code, message } = error as NodeJS.ErrnoException;
      this.problem =
        code === 'EADDRINUSE'
          ? `another program answers at port ${wanted}: choose another one with ARKIV_GALLERY_PORT and start Arkiv anew`
          : message;
      this.log.warn(`Galleries are not served: ${this.problem}`);
    }
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.app.close();
    const { server } = this;
    if (!server) return;
    await new Promise<void>((resolve) => {
      server.close(() => resolve());
      server.closeAllConnections();
    });
  }

  place(): { address: string; open: boolean; problem: string | null } {
    const { galleryAddress, galleryHost } = this.config;
    const { problem } = this;
    const open = galleryAddress !== '' || !isLoopback(galleryHost);
    if (galleryAddress !== '') return { address: galleryAddress, open, problem };
    const port = (this.server?.address() as AddressInfo | null)?.port ?? 0;
    const scheme = isLoopback(galleryHost) ? 'http' : 'https';
    return { address: `${scheme}://${hostShown(galleryHost)}:${port}`, open, problem };
  }

  private async listen(port: number, host: string): Promise<http.Server | https.Server> {
    const secure = !isLoopback(host);
    const app = this.app.make(secure);
    const certificate = secure ? await certificateFor(this.config, this.disk, this.clock.now()) : null;
    const server = certificate
      ? https.createServer({ cert: certificate.cert, key: certificate.key }, app)
      : http.createServer(app);
    server.headersTimeout = HEADERS_WITHIN;
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject);
      server.listen(port, host, () => {
        server.off('error', reject);
        resolve();
      });
    });
    return server;
  }
}
