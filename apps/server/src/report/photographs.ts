import type { AttachmentView } from '@norther/contracts';
import sharp from 'sharp';
import { heading, type PaperContext, type Piece } from './paper.ts';

/** Photographs that one report shows, and how large they are on it. */
export const MOST_SHOWN = 12;
const IN_A_ROW = 3;
const PIXELS = 700;
const QUALITY = 72;
const WIDE = 165;
const HIGH = 124;

/** A photograph made small for paper. */
export interface Shown {
  id: string;
  dataUri: string;
}
/** Those of a visit that are shown: spread over it, the first and the last among them. */
export function chosenPhotographs<T extends { mediaType: string }>(all: readonly T[]): T[] {
  const pictures = all.filter((a) => a.mediaType.startsWith('image/'));
  if (pictures.length <= MOST_SHOWN) return pictures;
  return Array.from(
    { length: MOST_SHOWN },
    (_, k) => pictures[Math.round((k * (pictures.length - 1)) / (MOST_SHOWN - 1))],
  ).filter((p): p is T => p !== undefined);
}

/** Photographs made small enough for paper, turned as they were taken; what is no picture inside is left out. */
export async function smallForPaper(files: readonly { id: string; content: Uint8Array }[]): Promise<Shown[]> {
  const out: Shown[] = [];
  for (const { id, content } of files) {
    const small = await sharp(content)
      .rotate()
      .resize({ width: PIXELS, height: PIXELS, fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: QUALITY })
      .toBuffer()
      .catch(() => undefined);
    if (small) out.push({ id, dataUri: `data:image/jpeg;base64,${small.toString('base64')}` });
  }
  return out;
}

/** The photographs of a visit, each with when it was taken and by whom; a row stays whole. */
export function photographsInReport(
  attachments: readonly AttachmentView[],
  shown: readonly Shown[],
  paper: PaperContext,
): Piece[] {
  const pictures = attachments.flatMap((a) => {
    const small = shown.find((s) => s.id === a.id);
    return small ? [{ ...a, dataUri: small.dataUri }] : [];
  });
  if (pictures.length === 0) return [];
  const w = paper.words.inside;
  const left = attachments.filter((a) => a.mediaType.startsWith('image/')).length - pictures.length;
  const rows = Array.from({ length: Math.ceil(pictures.length / IN_A_ROW) }, (_, r) =>
    pictures.slice(r * IN_A_ROW, (r + 1) * IN_A_ROW),
  ).map((row): Piece => ({
    unbreakable: true,
    columns: row.map((p) => ({
      width: WIDE,
      stack: [
        { image: p.dataUri, fit: [WIDE, HIGH] },
        { text: `${p.name}, ${p.person}, ${paper.time(p.at)}`, fontSize: 7, color: '#444444', margin: [0, 1, 0, 5] },
      ],
    })),
    columnGap: 10,
  }));
  const [first, ...more] = rows;
  return [
    // the heading never stands alone at the foot of a page
    { unbreakable: true, stack: [heading(w.photographs), ...(first ? [first] : [])] },
    ...more,
    ...(left > 0 ? [{ text: w.notShown(left), fontSize: 8 } as Piece] : []),
  ];
}
