import { Injectable } from '@nestjs/common';
import { keptCapture, keywordsIn, modelOfBody, type MoveFrame } from '@arkiv/core';
import { Reading } from '../db/unitOfWork';
import type { PlacedAsset } from '../frames/asset.entity';
import { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import { ArrivalLedger } from '../ledger/arrivalLedger';
import type { Shoot } from '../shoots/shoot.entity';

/** The frames of a shoot as plans of moves ask for them. */
@Injectable()
export class MoveFrames {
  constructor(
    private readonly reading: Reading,
    private readonly archive: FramesService,
    private readonly ledger: ArrivalLedger,
  ) {}

  /** In order of time, with all their files; what belongs to no frame comes together at the end. */
  async of(shoot: Shoot): Promise<MoveFrame[]> {
    const frames = await this.reading.manager.findBy(Frame, { shootId: shoot.id, state: 'here' });
    frames.sort((a, b) => (a.instant ?? Infinity) - (b.instant ?? Infinity) || (a.name < b.name ? -1 : 1));
    const byFrame = new Map<string | null, PlacedAsset[]>();
    for (const asset of await this.archive.ofShootFiles(shoot.id)) {
      // Edits lie where they came back, whatever their frames are called and wherever these go.
      if (asset.role === 'edit') continue;
      const its = byFrame.get(asset.frameId);
      if (its) its.push(asset);
      else byFrame.set(asset.frameId, [asset]);
    }
    const files = (list: readonly PlacedAsset[] = []) =>
      [...list]
        .sort((a, b) => (a.at < b.at ? -1 : 1))
        .map(({ id, at, role }) => ({ assetId: id, path: at, role }));
    const cards =
      shoot.plan.below?.includes('{card}') || shoot.pattern.includes('{card}')
        ? await this.ledger.cards(shoot.id)
        : null;
    const list = frames.map((frame): MoveFrame => ({
      id: frame.id,
      name: frame.name,
      original: frame.original,
      card: cards?.get(frame.id) ?? '',
      folder: frame.folder,
      place: frame.place,
      capture: keptCapture(frame),
      model: modelOfBody(frame.body, frame.serial),
      serial: frame.serial ?? '',
      stars: frame.stars,
      keyword: keywordsIn(frame.keywords)[0],
      files: files(byFrame.get(frame.id)),
    }));
    const loose = files(byFrame.get(null));
    if (loose.length > 0) {
      const folder = shoot.folders.find((f) => loose[0]!.path.startsWith(`${f}/`)) ?? shoot.folders[0]!;
      const place = `${folder}/${shoot.plan.originals}`;
      list.push({ ...NO_FRAME, folder, place, files: loose.filter((f) => f.path.startsWith(`${place}/`)) });
    }
    return list;
  }
}

const NO_FRAME: MoveFrame = {
  id: null,
  name: '',
  original: '',
  card: '',
  folder: '',
  place: '',
  capture: null,
  model: '',
  serial: '',
  stars: 0,
  files: [],
};
