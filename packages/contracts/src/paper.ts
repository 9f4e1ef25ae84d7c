import { z } from 'zod';

/** Sections of the report behind its first page; a shop or a customer may leave some out. */
export const CERTIFICATE_SECTIONS = [
  'failure',
  'nameplate',
  'winding',
  'tests',
  'curves',
  'cure',
  'balance',
  'material',
  'instruments',
  'timeline',
  'photographs',
  'work',
] as const;
export type CertificateSection = (typeof CERTIFICATE_SECTIONS)[number];
export const SECTION_TITLES: Readonly<Record<CertificateSection, string>> = {
  failure: 'Why it failed',
  nameplate: 'Nameplate',
  winding: 'Winding',
  tests: 'Tests',
  curves: 'Curves',
  cure: 'Cure',
  balance: 'Balance',
  material: 'Material and lots',
  instruments: 'Instruments',
  timeline: 'The visit, day by day',
  photographs: 'Photographs',
  work: 'Work done',
};

const leaveOut = z.array(z.enum(CERTIFICATE_SECTIONS)).max(CERTIFICATE_SECTIONS.length).default([]);
const letterhead = z.string().trim().max(300, 'A letterhead has at most 300 letters.').default('');

/** How reports look: for everybody, and otherwise for single customers. */
export const paperTemplatesSchema = z.strictObject({
  letterhead,
  leaveOut,
  customers: z
    .array(z.strictObject({ customer: z.string().trim().min(1, 'Name the customer.').max(120), letterhead, leaveOut }))
    .max(300)
    .refine((all) => new Set(all.map((c) => c.customer.toLowerCase())).size === all.length, 'A customer stands twice.')
    .default([]),
});
export type PaperTemplates = z.output<typeof paperTemplatesSchema>;

/** The template of a customer: their own where there is one. Reports of before had none. */
export function templateFor(
  papers: PaperTemplates | undefined,
  customer: string,
): { letterhead: string; leaveOut: readonly CertificateSection[] } {
  const own = papers?.customers.find((c) => c.customer.toLowerCase() === customer.trim().toLowerCase());
  return {
    letterhead: own?.letterhead || (papers?.letterhead ?? ''),
    leaveOut: own ? own.leaveOut : (papers?.leaveOut ?? []),
  };
}

/** A report is issued; from the second on it takes the place of the one before, with a reason. */
export const issueReportBody = z.strictObject({
  reason: z.string().trim().max(200).default(''),
  /** who saw the tests, beside who issues it */
  witness: z.string().trim().max(80).default(''),
});

/** Material that went into the motor, by lot. */
export interface LotUsed {
  what: string;
  lot: string;
  quantity: number;
  unit: string;
}
