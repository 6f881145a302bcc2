/** A picture on a proof sheet. */
export interface Proof {
  /** what stands below it */
  name: string;
  jpeg: Uint8Array;
}

/** Points: A4 upright, with margins that printers can keep. */
const PAGE = { width: 595.28, height: 841.89, margin: 36 } as const;
/** Three by five: pictures that lie fill their places, those that stand are as large as they, and faces can be told apart on paper. */
const [COLUMNS, ROWS] = [3, 5];
const GAP = 12;
const HEAD = 24;
const NAME = 12;
const FONT = require.resolve('dejavu-fonts-ttf/ttf/DejaVuSans.ttf');
/** Bytes that may wait for whoever writes them. */
const WAITING = 4 * 1024 * 1024;

/**
 * A PDF of pictures with their names below them, fifteen to a page, as it comes into being: pictures are asked for one after another.
 * The same pictures, words and time give the same bytes.
 */
export async function* proofSheet(
  { title, words, at }: { title: string; words: string; at: number },
  proofs: AsyncIterable<Proof>,
): AsyncGenerator<Uint8Array> {
  const { default: PDFDocument } = await import('pdfkit');
  const document = new PDFDocument({
    ...{ size: 'A4', margin: PAGE.margin, autoFirstPage: false, font: FONT },
    info: { Title: title, Creator: 'Arkiv', Producer: 'Arkiv', CreationDate: new Date(at) },
  });
  let broken: Error | null = null;
  const filling = fill(document, title, words, proofs).catch((error: Error) => {
    broken = error;
    document.destroy(error);
  });
  for await (const bytes of document) yield bytes as Uint8Array;
  await filling;
  if (broken !== null) throw broken;
}

async function fill(
  document: PDFKit.PDFDocument,
  title: string,
  words: string,
  proofs: AsyncIterable<Proof>,
): Promise<void> {
  const width = (PAGE.width - 2 * PAGE.margin - (COLUMNS - 1) * GAP) / COLUMNS;
  const height = (PAGE.height - 2 * PAGE.margin - HEAD - (ROWS - 1) * GAP) / ROWS;
  let count = 0;
  for await (const { name, jpeg } of proofs) {
    const place = count % (COLUMNS * ROWS);
    if (place === 0) {
      // What was put on the pages before is taken first, so that no more than a page waits in memory.
      while (document.readableLength > WAITING) await new Promise((resolve) => setTimeout(resolve, 5));
      document.addPage();
      const line = { width: PAGE.width - 2 * PAGE.margin, lineBreak: false, ellipsis: true, height: HEAD };
      document.fontSize(10).fillColor('#000').text(title, PAGE.margin, PAGE.margin, line);
      const page = `${words}, page ${count / (COLUMNS * ROWS) + 1}`;
      document
        .fontSize(8)
        .fillColor('#555')
        .text(page, PAGE.margin, PAGE.margin + 1, {
          ...line,
          align: 'right',
        });
    }
    const x = PAGE.margin + (place % COLUMNS) * (width + GAP);
    const y = PAGE.margin + HEAD + Math.floor(place / COLUMNS) * (height + GAP);
    document.image(Buffer.from(jpeg), x, y, {
      ...{ fit: [width, height - NAME], align: 'center', valign: 'bottom' },
    });
    document
      .fontSize(7)
      .fillColor('#000')
      .text(name, x, y + height - NAME + 3, {
        ...{ width, height: NAME - 3, align: 'center', lineBreak: false, ellipsis: true },
      });
    count += 1;
  }
  if (count === 0) document.addPage();
  document.end();
}
