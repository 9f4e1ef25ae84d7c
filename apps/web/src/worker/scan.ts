import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';
import wasm from 'zxing-wasm/reader/zxing_reader.wasm?url';
import { expose } from 'comlink';

// the reader's code ships with the application; nothing is fetched from elsewhere
prepareZXingModule({
  overrides: { locateFile: (path: string, before: string) => (path.endsWith('.wasm') ? wasm : before + path) },
});

const door = {
  /** The text of the code on a photograph: of several the largest; undefined where none can be read. */
  async read(photograph: Blob): Promise<string | undefined> {
    const found = await readBarcodes(photograph, {
      tryHarder: true,
      tryRotate: true,
      tryInvert: true,
      tryDownscale: true,
      maxNumberOfSymbols: 4,
    });
    const size = (code: (typeof found)[number]): number => {
      const { topLeft: a, bottomRight: b } = code.position;
      return Math.hypot(a.x - b.x, a.y - b.y);
    };
    return found.filter((code) => code.isValid && code.text !== '').sort((a, b) => size(b) - size(a))[0]?.text;
  },
};
export type ScanDoor = typeof door;
expose(door);
