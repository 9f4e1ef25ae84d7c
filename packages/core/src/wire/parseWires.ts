import { formatNumber } from '../quantity/format.ts';
import { parseNumber, type Parsed } from '../quantity/parse.ts';
import { METRE_PER_INCH } from '../quantity/units.ts';
import { awgDiameterM, swgDiameterM } from './gauge.ts';
import type { Strand } from './strands.ts';

/** What a bare wire size means in this shop. */
export type WireSystem = 'metric' | 'awg' | 'swg';

/**
 * Reads wires in hand as said at the bench: `2x18 + 1x17`, `2 x 0,85`, `18`, `2×0.85 mm`, `3x20 swg`, `1/0`.
 * A bare size of the shop's system; a number with a decimal sign below 6 is always metric mm.
 * @example parseWires('2x18+1x17', 'awg') // two AWG 18 and one AWG 17
 */
export function parseWires(text: string, system: WireSystem): Parsed<Strand[]> {
  const strands: Strand[] = [];
  for (const part of text
    .trim()
    .split(/\s*(?:\+|&|\band\b|;)\s*/i)
    .filter(Boolean)) {
    const match = /^(?:(\d+)\s*(?:[x×*]|\bof\b)\s*)?(.+)$/i.exec(part);
    const count = Number(match?.[1] ?? 1);
    const size = (match?.[2] ?? '').trim();
    if (count < 1 || count > 40) return { ok: false, message: `"${part}": between 1 and 40 wires in hand.` };
    const read = parseSize(size, system);
    if (!read.ok) return read;
    strands.push({ count, ...read.value });
  }
  if (strands.length === 0) return { ok: false, message: 'Type wires and size, for example 2x18+1x17 or 2x0.85.' };
  return { ok: true, value: strands };
}

function parseSize(size: string, system: WireSystem): Parsed<{ bareM: number; label: string }> {
  const match = /^(?:(awg|swg|#|no\.?)\s*)?([\d.,/ ]+?)\s*(mm|in|"|awg|swg|ga)?$/i.exec(size);
  if (!match) return { ok: false, message: `"${size}" is not a wire size. Type for example 18, 17.5, 0.85 or 2/0.` };
  const digits = (match[2] ?? '').trim();
  const said = (match[3] ?? match[1] ?? '').toLowerCase().replace('.', '');
  const decimal = /[.,]/.test(digits) && !/[.,]5$/.test(digits) ? true : /^0[.,]/.test(digits);
  const kind: WireSystem | 'in' =
    said === 'mm'
      ? 'metric'
      : said === 'in' || said === '"'
        ? 'in'
        : said === 'awg'
          ? 'awg'
          : said === 'swg'
            ? 'swg'
            : decimal
              ? 'metric'
              : said === '#' || said === 'no' || said === 'ga'
                ? system === 'metric'
                  ? 'awg'
                  : system
                : system;
  if (kind === 'metric' || kind === 'in') {
    const value = parseNumber(digits);
    const bareM = value === undefined ? undefined : value * (kind === 'in' ? METRE_PER_INCH : 1e-3);
    if (bareM === undefined || bareM < 0.00002 || bareM > 0.006) {
      return {
        ok: false,
        message: `"${size}" is not a round wire diameter in ${kind === 'in' ? 'inch' : 'mm'} (0.02 to 6 mm). For a gauge number type AWG ${digits}.`,
      };
    }
    return { ok: true, value: { bareM, label: `${formatNumber(bareM * 1000, 5)} mm` } };
  }
  const aught = /^([1-7])\/0$/.exec(digits);
  if (kind === 'swg') {
    const bareM = swgDiameterM(aught ? digits : String(parseNumber(digits) ?? ''));
    if (bareM === undefined) return { ok: false, message: `The legacy gauge table has no size "${digits}".` };
    return { ok: true, value: { bareM, label: `SWG ${digits}` } };
  }
  const number = aught ? 1 - Number(aught[1]) : parseNumber(digits);
  if (number === undefined || number < -3 || number > 46 || (number * 2) % 1 !== 0) {
    return { ok: false, message: `AWG "${digits}" is not a gauge number (4/0 to 46, half sizes as 17.5).` };
  }
  return { ok: true, value: { bareM: awgDiameterM(number), label: `AWG ${aught ? digits : number}` } };
}
