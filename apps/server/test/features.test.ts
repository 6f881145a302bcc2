import sharp from 'sharp';
import {
  greyOf as luma,
  LOOK_SIDE,
  MEASURED_SIDE,
  measuresOf,
  packMeasures,
  sharpnessOf,
  shiftBetween,
  SURE,
  unpackMeasures,
} from '@arkiv/core';
import { Reading } from '../src/db/unitOfWork';
import { FeaturesService, makerOf } from '../src/features/features.service';
import { PictureMaker } from '../src/pictures/pictureMaker';
import { PreviewsService } from '../src/previews/previews.service';
import { UnitOfWork } from '../src/db/unitOfWork';
import { dataWithCard, removeFolder, startArkiv, until, type TestArkiv } from './testArkiv';

const greyOf = async (image: sharp.Sharp) => {
  const { data, info } = await image.greyscale().raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8Array(data) };
};

describe('measures of pictures', () => {
  let arkiv: TestArkiv;
  let data: string;
  let pictures: string[];
  beforeAll(async () => {
    data = dataWithCard({ until: 'OCK_9973' });
    arkiv = await startArkiv(data);
    const { jobId, shootId } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    pictures = (await arkiv.frames(shootId)).picture;
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });
  afterEach(() => jest.restoreAllMocks());

  const rows = (): Promise<{ picture: string; maker: number }[]> =>
    arkiv.app.get(Reading).source.query('SELECT picture, maker FROM feature ORDER BY picture');
  const features = () => arkiv.app.get(FeaturesService);

  it('are made from the stored preview, once, however many ask', async () => {
    const [picture] = pictures;
    const made = jest.spyOn(arkiv.app.get(PictureMaker), 'features');
    const [first, second] = await Promise.all([features().measures(picture!), features().measures(picture!)]);
    const third = await features().measures(picture!);
    expect(made).toHaveBeenCalledTimes(1);
    expect(second).toEqual(first);
    expect(third).toEqual(first);
    const preview = await arkiv.app.get(PreviewsService).get(picture!, 'screen');
    const own = await sharp(preview)
      .resize(MEASURED_SIDE, MEASURED_SIDE, { fit: 'inside', kernel: 'linear', withoutEnlargement: true })
      .raw()
      .toBuffer({ resolveWithObject: true });
    const { width, height } = own.info;
    const small = await sharp(own.data, { raw: { width, height, channels: 3 } })
      .resize(LOOK_SIDE, LOOK_SIDE, { fit: 'inside' })
      .raw()
      .toBuffer({ resolveWithObject: true });
    const { width: w, height: h } = small.info;
    const anew = measuresOf(luma({ width, height, data: own.data }), {
      width: w,
      height: h,
      data: small.data,
    });
    expect(first).toEqual(unpackMeasures(packMeasures(anew)));
    expect(first.measures.sharp).toBeGreaterThan(0);
  });

  it('of an earlier maker are made anew, and stand in their place', async () => {
    const picture = pictures[1]!;
    const kept = async () => (await rows()).filter((row) => row.picture === picture);
    await features().measures(picture);
    await until(async () => (await kept()).length === 1);
    await arkiv.app
      .get(UnitOfWork)
      .write((manager) =>
        manager.query("UPDATE feature SET maker = maker - 1, data = x'00' WHERE picture = ?", [picture]),
      );
    const again = await features().measures(picture);
    expect(again.sharpness.across).toBeGreaterThan(1);
    await until(async () => (await kept())[0]!.maker === makerOf('measures'));
    expect(await kept()).toHaveLength(1);
  });

  it('are none where there is no picture, and nothing is kept of it', async () => {
    const before = await rows();
    await expect(features().measures('f'.repeat(64))).rejects.toThrow();
    expect(await rows()).toEqual(before);
  });

  it('tell a blurred picture from a sharp one, and how one lies over another, on real pixels', async () => {
    const preview = await arkiv.app.get(PreviewsService).get(pictures[2]!, 'screen');
    // Smaller than the plates that it was developed from: as fine as pixels are.
    const small = sharp(preview).resize(450, 300, { fit: 'fill' });
    const clear = sharpnessOf(await greyOf(small.clone()));
    const soft = sharpnessOf(await greyOf(small.clone().blur(2.5)));
    expect(soft.sharp!).toBeLessThan(clear.sharp! / 2);
    const part = (left: number, top: number) =>
      sharp(preview).resize(900, 600, { fit: 'fill' }).extract({ left, top, width: 700, height: 460 });
    const found = shiftBetween(await greyOf(part(60, 50)), await greyOf(part(20, 80).linear(1.2, -8)));
    expect(Math.hypot(found.dx - 40, found.dy + 30)).toBeLessThan(3);
    expect(found.sureness).toBeGreaterThan(SURE);
  });
});
