import { leadMark, phaseWords, type WindingType } from '@norther/core';
import type { JobDetail } from '@norther/contracts';
import { useMarks } from '../../app/shop.ts';
import { testedOfJob } from './TestMatrix.tsx';

/** Sentences and labels of the bench in the reader's lead marks and phase letters; lead marks that stand in a field too. */
export function useWords(job: JobDetail): { say: (text: string) => string; marks: (text: string) => string } {
  const { school } = useMarks();
  const { record, machine } = testedOfJob(job);
  const type: WindingType =
    record?.kind === 'two-speed' ? 'two-speed' : machine === 'single-phase' ? 'single-phase' : 'three-phase';
  return {
    // a single-phase winding has its own names already
    say: (text) => (type === 'single-phase' ? text : phaseWords(text, school, type)),
    marks: (text) => leadMark(text, school, type),
  };
}
