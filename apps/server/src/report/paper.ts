import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { formatInTimeZone, type ShopSettings } from '@norther/contracts';
import pdfmake from 'pdfmake';
import { ENGLISH, type PaperWords } from './words.ts';

const fonts = join(dirname(createRequire(import.meta.url).resolve('pdfmake/package.json')), 'fonts', 'Roboto');
pdfmake.setFonts({
  Roboto: {
    normal: join(fonts, 'Roboto-Regular.ttf'),
    bold: join(fonts, 'Roboto-Medium.ttf'),
    italics: join(fonts, 'Roboto-Italic.ttf'),
    bolditalics: join(fonts, 'Roboto-MediumItalic.ttf'),
  },
});
pdfmake.setLocalAccessPolicy((path) => path.startsWith(fonts));
pdfmake.setUrlAccessPolicy(() => false);

/** A piece of a page, in the PDF library's own terms. */
export type Piece = Record<string, unknown> | string;

export interface PaperContext {
  settings: ShopSettings;
  words: PaperWords;
  /** a time as the shop writes it */
  time: (iso: string) => string;
  day: (iso: string) => string;
}

export function paperContext(settings: ShopSettings): PaperContext {
  return {
    settings,
    words: ENGLISH,
    time: (iso) => formatInTimeZone(iso, settings.timeZone, settings.dateFormat, 'with time'),
    day: (iso) => formatInTimeZone(iso, settings.timeZone, settings.dateFormat, 'day'),
  };
}

export const heading = (text: string): Piece => ({ text, bold: true, fontSize: 10, margin: [0, 8, 0, 3] });

/** Two columns of name and value; empty values stay as a line to write on where `blank` is set. */
export function pairs(
  rows: readonly (readonly [string, string | undefined])[],
  options: { columns?: number; blank?: true } = {},
): Piece {
  const columns = options.columns ?? 2;
  const kept = options.blank ? rows : rows.filter(([, v]) => v !== undefined && v !== '');
  const lines: Piece[][] = [];
  for (let i = 0; i < kept.length; i += columns) {
    const line: Piece[] = [];
    for (let c = 0; c < columns; c++) {
      const row = kept[i + c];
      line.push(
        { text: row?.[0] ?? '', color: '#444444', fontSize: 8 },
        { text: row?.[1] ?? (options.blank && row ? '.....................' : ''), fontSize: 9 },
      );
    }
    lines.push(line);
  }
  return lines.length === 0
    ? ''
    : {
        table: { widths: Array.from({ length: columns * 2 }, (_, i) => (i % 2 === 0 ? 'auto' : '*')), body: lines },
        layout: 'noBorders',
      };
}

export function grid(
  head: readonly string[],
  rows: readonly (readonly (string | Piece)[])[],
  widths?: readonly (string | number)[],
): Piece {
  return {
    table: {
      headerRows: 1,
      keepWithHeaderRows: 1,
      dontBreakRows: true,
      widths: widths ?? head.map(() => '*'),
      body: [
        head.map((text) => ({ text, bold: true, fontSize: 8 })),
        ...rows.map((r) => r.map((cell) => (typeof cell === 'string' ? { text: cell, fontSize: 8 } : cell))),
      ],
    },
    layout: {
      hLineWidth: () => 0.5,
      vLineWidth: () => 0,
      hLineColor: () => '#888888',
      paddingTop: () => 2,
      paddingBottom: () => 2,
      paddingLeft: () => 2,
      paddingRight: () => 6,
    },
  };
}

export interface PaperOptions {
  title: string;
  settings: ShopSettings;
  content: readonly Piece[];
  footer: string;
  pageSize?: { width: number; height: number } | string;
  margins?: readonly number[];
  landscape?: boolean;
}

/** Lays out a document on the shop's paper with its name on it. */
export async function makePdf(options: PaperOptions): Promise<Buffer> {
  const small = typeof options.pageSize === 'object';
  return pdfmake
    .createPdf({
      info: { title: options.title, creator: 'Norther', producer: 'Norther' },
      pageSize: options.pageSize ?? options.settings.paper,
      pageOrientation: options.landscape ? 'landscape' : 'portrait',
      pageMargins: options.margins ?? [36, 36, 36, 40],
      defaultStyle: { font: 'Roboto', fontSize: 9, lineHeight: 1.15 },
      content: options.content,
      ...(small
        ? {}
        : {
            footer: (page: number, pages: number) => ({
              columns: [
                { text: options.footer, fontSize: 7, color: '#444444' },
                { text: `${page} / ${pages}`, fontSize: 7, alignment: 'right', color: '#444444', width: 40 },
              ],
              margin: [36, 12, 36, 0],
            }),
          }),
    })
    .getBuffer();
}
