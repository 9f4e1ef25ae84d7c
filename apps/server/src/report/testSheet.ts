import { windingOfPart, type JobDetail, type ShopSettings } from '@norther/contracts';
import {
  fieldsFor,
  FIRST_PART,
  judgingContext,
  phaseWords,
  stageTitle,
  testedOf,
  testsFor,
  wantedAt,
  type Nameplate,
  type RouteId,
  type TestStage,
  type WhatCame,
} from '@norther/core';
import { heading, pairs, paperContext, type PaperOptions, type Piece } from './paper.ts';
import { saidRating } from './windingCard.ts';

/** A sheet to take to a bench without a screen: what each test of a stage is to be done with, and room for what is read. */
export function testSheet(job: JobDetail, settings: ShopSettings, stage: TestStage): PaperOptions {
  const { found, plan } = windingOfPart(job, FIRST_PART);
  const route = job.route as RouteId;
  const tested = testedOf(job.nameplate, found, plan);
  const came = job.came as WhatCame;
  const say = (text: string): string =>
    tested.machine === 'single-phase'
      ? text
      : phaseWords(text, settings.leadMarks, tested.record?.kind === 'two-speed' ? 'two-speed' : 'three-phase');
  const context = judgingContext({
    stage,
    part: FIRST_PART,
    rotor: windingOfPart(job, 'wound-rotor').shown,
    route,
    nameplate: job.nameplate,
    found,
    plan,
    limits: settings.limits,
    calibrationExpired: false,
    tests: job.tests.filter((t) => t.part === FIRST_PART),
  });
  const kinds = testsFor(tested).flatMap((kind) => {
    const wants = wantedAt(kind, stage, came, tested);
    return wants === undefined ? [] : [{ kind, wants }];
  });
  const { words } = paperContext(settings);
  const w = words.testSheet;
  const title = w.title(job.number, stageTitle(stage, route));
  return {
    title,
    settings,
    footer: `${settings.name} · ${title}`,
    content: [
      {
        columns: [
          [
            { text: settings.name, bold: true, fontSize: 9 },
            { text: `${job.what}, ${stageTitle(stage, route)}`, bold: true, fontSize: 15 },
            { text: `${job.number} · ${job.customer} · ${saidRating(job.nameplate as Nameplate, words)}`, fontSize: 9 },
          ],
          { qr: `norther:job:${job.number}`, fit: 56, width: 60, alignment: 'right' },
        ],
      },
      pairs(
        [
          [w.readBy, undefined],
          [w.date, undefined],
        ],
        { blank: true },
      ),
      ...(kinds.length === 0 ? [{ text: w.none, margin: [0, 8, 0, 0] }] : []),
      ...kinds.map(({ kind, wants }): Piece => ({
        // a test does not part over two pages
        unbreakable: true,
        stack: [
          heading(`${kind.title}${wants === 'optional' ? w.optional : ''}`),
          ...(kind.due?.(context).says ?? []).map((s) => ({ text: say(s), fontSize: 8 })),
          pairs(
            fieldsFor(kind, tested).map((f) => [say(f.label), undefined] as const),
            { columns: 3, blank: true },
          ),
          { text: words.caution(kind.caution), fontSize: 7, italics: true },
        ],
      })),
    ],
  };
}
