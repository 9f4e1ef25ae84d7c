import { failedWinding, type FailureView, type JobDetail, type ShopSettings } from '@norther/contracts';
import { burntRing, causeTitle, drawingToSvg, PARTS, phaseWords, readMarks, readPins, sayMarks } from '@norther/core';
import { heading, type PaperContext, type Piece } from './paper.ts';

const LETTERS = { U: ['U', 'V', 'W'], T: ['A', 'B', 'C'] } as const;

/** Why it failed, for the owner: cause, what speaks for it, what helped it along, advice; the map of the old winding beside it. */
export function failureInReport(job: JobDetail, settings: ShopSettings, paper: PaperContext): Piece[] {
  return (job.failures ?? []).flatMap((f) => oneFailure(job, f, settings, paper));
}

function oneFailure(job: JobDetail, f: FailureView, settings: ShopSettings, paper: PaperContext): Piece[] {
  const said = (name: string): string => (f.typed[name] ?? '').trim();
  const cause = said('cause');
  if (cause === '' && said('marks') === '') return [];
  const chosen = f.found.causes.find((c) => c.id === cause);
  const { layout } = failedWinding(job, f.part);
  const { marks } = readMarks(said('marks'));
  const pins = readPins(said('pins'));
  const line = (title: string, text: string): Piece[] =>
    text === '' ? [] : [{ text: [{ text: `${title}: `, bold: true }, text], margin: [0, 2, 0, 0], fontSize: 9 }];
  const w = paper.words.failure;
  const words: Piece[] = [
    ...line(w.cause, cause === '' ? w.open : causeTitle(cause)),
    ...line(w.detail, said('causeSays')),
    ...line(w.speaksFor, phaseWords((chosen?.speaksFor ?? []).join('; '), settings.leadMarks)),
    ...line(w.speaksAgainst, phaseWords((chosen?.speaksAgainst ?? []).join('; '), settings.leadMarks)),
    ...line(w.contributing, said('contributing')),
    ...line(w.missing, said('missing')),
    ...line(w.advice, said('advice')),
    ...line(w.coils, sayMarks(marks)),
    ...line(
      w.seen,
      pins
        .map((p) => `${w.pin(p.slot, p.says)}${p.photograph === undefined ? '' : w.photograph(p.photograph)}`)
        .join('; '),
    ),
    { text: `${f.person}, ${paper.time(f.at)}`, fontSize: 8, color: '#444444', margin: [0, 2, 0, 0] },
  ];
  const ring =
    layout && marks.length > 0
      ? {
          svg: drawingToSvg(burntRing(layout, marks, { size: 380, letters: [...LETTERS[settings.leadMarks]] })),
          width: 170,
        }
      : undefined;
  return [
    heading(job.failures && job.failures.length > 1 ? w.whyOf(PARTS[f.part].title) : w.why),
    ring ? { columns: [{ width: '*', stack: words }, ring], columnGap: 10 } : { stack: words },
  ];
}
