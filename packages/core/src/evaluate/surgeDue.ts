import { formatNumber } from '../quantity/format.ts';
import { surgeVoltage, type RequiredVoltage } from '../surge/voltage.ts';
import { isFormWound } from '../winding/record.ts';
import type { Due } from './due.ts';
import type { JudgingContext } from './testKind.ts';

/** The crest that this winding is to be tested with at this stage; undefined where the nameplate names no voltage. */
export function surgeRequired(
  c: Pick<JudgingContext, 'nameplate' | 'record' | 'stage' | 'newWinding' | 'limits'>,
): RequiredVoltage | undefined {
  const { voltagesV } = c.nameplate;
  if (!voltagesV?.length) return undefined;
  return surgeVoltage(
    {
      lineV: Math.max(...voltagesV),
      winding: isFormWound(c.record) ? 'form-wound' : 'random-wound',
      state: c.newWinding ? (c.stage === 'AC' ? 'before resin' : c.stage === 'VC' ? 'new' : 'service') : 'service',
    },
    c.limits,
  );
}

/** What is said before a surge comparison. */
export function surgeDue(c: JudgingContext): Due {
  const required = surgeRequired(c);
  if (!required) return { says: ['The nameplate names no voltage: the crest cannot be worked out.'] };
  return {
    says: [
      `Crest ${formatNumber(required.crestV)} V: ${required.formula} (${required.source}). Crest, not rms: nothing is multiplied by √2.`,
      'Raise in steps, keep a wave of every step and every pair of leads.',
    ],
    short: `${formatNumber(required.crestV)} V`,
    typed: { testV: formatNumber(required.crestV) },
  };
}
