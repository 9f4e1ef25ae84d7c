import type { JobDetail } from '@norther/contracts';
import { baseOf, type OperationCode } from '@norther/core';

interface Need {
  text: string;
  to: string;
  /** opens as a paper of its own */
  paper?: true;
}
const WINDS: readonly OperationCode[] = ['WND', 'INS', 'FLP', 'FSP', 'FIN', 'DA2', 'STR'];
const CUTS: readonly OperationCode[] = ['LIN', 'SEP', 'WDG', 'PHI', 'SLV', 'LDS', 'LAC', 'FTP'];
const JOINS: readonly OperationCode[] = ['CON', 'FCN', 'SLV', 'LDS'];
const TESTS: readonly OperationCode[] = ['TAF', 'PVT', 'PCT', 'OTT', 'FT1', 'RUN', 'LDT'];

/** The card, drawing or bench that a step works from. */
export function needsOf(code: OperationCode, job: JobDetail): Need[] {
  const at = `/jobs/${job.number}`;
  const stator = job.came !== 'rotor only';
  const out: Need[] = [];
  if (stator && (WINDS.includes(code) || JOINS.includes(code)))
    out.push({ text: 'Winding card', to: `/api${at}/card.pdf?part=stator`, paper: true });
  if (stator && CUTS.includes(code)) out.push({ text: 'Cutting lists', to: `${at}/material` });
  if (stator && JOINS.includes(code)) out.push({ text: 'Joints, one by one', to: `${at}/joints` });
  if (TESTS.includes(code)) out.push({ text: 'Tests', to: `${at}/tests` });
  if (baseOf(code) === 'CUR' || code === 'ODR') out.push({ text: 'Oven', to: `${at}/oven` });
  if (code === 'RBL') out.push({ text: 'Balance', to: `${at}/balance` });
  if (code === 'DAT') out.push({ text: 'Data as found', to: `${at}/data` });
  if (code === 'DSG') out.push({ text: 'Plan and card', to: `${at}/plan` });
  if (code === 'DSP') out.push({ text: 'Papers', to: `${at}/papers` });
  return out;
}
