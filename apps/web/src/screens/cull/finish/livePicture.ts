import { finishPixels, keepPixels } from '../../../data/pixels';
import { pictures } from '../pictures';

/** Pixels of the longer side that are finished while a hand changes them: as many as a window of 1,280 shows. */
export const LIVE_SIDE = 1600;

/**
 * One picture that is finished while a hand changes its values: its pixels lie beside the thread that draws, and only the newest values
 * are asked for.
 */
export class LivePicture {
  /** what was made last, and of which values */
  private made: { bitmap: ImageBitmap; values: string } | null = null;
  private kept: Promise<boolean> | null = null;
  private wanted: string | null = null;
  private asking = false;
  private gone = false;

  constructor(
    private readonly url: string,
    private readonly onMade: () => void,
  ) {}

  get bitmap(): ImageBitmap | null {
    return this.made?.bitmap ?? null;
  }

  /** Makes the picture with these values, as soon as it is there. */
  show(values: string): void {
    this.wanted = values;
    void this.goOn();
  }

  end(): void {
    this.gone = true;
    this.made?.bitmap.close();
    this.made = null;
  }

  private async goOn(): Promise<void> {
    if (this.asking || this.gone) return;
    const values = this.wanted;
    if (values === null || this.made?.values === values) return;
    this.asking = true;
    try {
      if (!(await this.keep())) return;
      const bitmap = await finishPixels(this.url, values);
      if (bitmap === null) this.kept = null;
      else if (this.gone) bitmap.close();
      else {
        this.made?.bitmap.close();
        this.made = { bitmap, values };
        this.onMade();
      }
    } finally {
      this.asking = false;
    }
    if (this.kept === null || this.wanted !== values) void this.goOn();
  }

  /** False while the picture is not there. */
  private keep(): Promise<boolean> {
    const image = pictures.ready(this.url);
    if (!image) return Promise.resolve(false);
    this.kept ??= (async () => {
      const by = Math.min(1, LIVE_SIDE / Math.max(image.naturalWidth, image.naturalHeight));
      const bitmap = await createImageBitmap(image, {
        resizeWidth: Math.max(1, Math.round(image.naturalWidth * by)),
        resizeHeight: Math.max(1, Math.round(image.naturalHeight * by)),
        resizeQuality: 'high',
      });
      await keepPixels(this.url, bitmap);
      return true;
    })();
    return this.kept;
  }
}
