import { limit, quoteLimit, type LimitId, type ShopLimits } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { findUnit, fromBase } from '../quantity/units.ts';
import type { FieldValue } from '../quantity/fields.ts';
import { combineVerdicts, notAbove, notBelow, type Judged, type Verdict } from '../verdict.ts';
import type { AcceptRule, Operation } from './operations.ts';

export interface RecordContext {
  limits: ShopLimits;
  /** recorded values of earlier operations of this job */
  earlier: Readonly<Record<string, Readonly<Record<string, FieldValue>>>>;
  /** sign-in name and full name of the person recording */
  person: { name: string };
}

/** Judges what was recorded at an operation by its acceptance rules; the sentences say which rule spoke. */
export function judgeRecord(
  op: Operation,
  values: Readonly<Record<string, FieldValue>>,
  context: RecordContext,
): Judged {
  const parts: Judged[] = [];
  for (const rule of op.accept) {
    const part = judgeRule(op, rule, values, context);
    if (part) parts.push(part);
  }
  const verdict: Verdict = parts.length === 0 ? 'pass' : combineVerdicts(parts.map((p) => p.verdict));
  const said = parts.filter((p) => p.verdict === verdict && p.reason !== '');
  return { verdict, reason: said.map((p) => p.reason).join(' ') || 'Recorded and complete.' };
}

function judgeRule(
  op: Operation,
  rule: AcceptRule,
  values: Readonly<Record<string, FieldValue>>,
  context: RecordContext,
): Judged | undefined {
  const field = (name: string) => op.fields.find((f) => f.name === name);
  const label = (name: string) => field(name)?.label ?? name;
  const numberOf = (name: string, unit: string): number | undefined => {
    const value = values[name];
    if (typeof value !== 'number') return undefined;
    const read = field(name)?.read;
    return read?.kind === 'quantity' && findUnit(read.dimension, unit) ? fromBase(value, read.dimension, unit) : value;
  };
  switch (rule.rule) {
    case 'yes': {
      const value = values[rule.field];
      if (value === undefined) return undefined;
      return value === true
        ? { verdict: 'pass', reason: '' }
        : { verdict: rule.verdict ?? 'fail', reason: rule.otherwise };
    }
    case 'at most':
    case 'at least': {
      if (rule.rule === 'at most' && rule.when && !rule.when.is.includes(String(values[rule.when.field] ?? '')))
        return undefined;
      const value = numberOf(rule.field, rule.unit);
      if (value === undefined) return undefined;
      const bound = typeof rule.limit === 'number' ? rule.limit : limit(rule.limit, context.limits);
      const inside = rule.rule === 'at most' ? notAbove(value, bound) : notBelow(value, bound);
      const [shown, shownBound] = formatAgainst(value, bound);
      const unit = rule.rule === 'at most' && rule.per ? `${rule.unit}/${rule.per}` : rule.unit;
      const quoted =
        typeof rule.limit === 'number'
          ? `${shownBound} ${unit} (common practice)`
          : quoteLimit(rule.limit as LimitId, context.limits);
      return {
        verdict: inside ? 'pass' : (rule.verdict ?? 'fail'),
        reason: inside ? '' : `${label(rule.field)} ${shown} ${unit}; ${rule.rule} ${quoted}.`,
      };
    }
    case 'within percent': {
      const mean = values[rule.of];
      if (typeof mean !== 'number' || mean === 0) return undefined;
      const off = rule.fields
        .map((name) => ({ name, value: values[name] }))
        .filter((x): x is { name: string; value: number } => typeof x.value === 'number')
        .map((x) => ({ ...x, percent: (100 * Math.abs(x.value - mean)) / mean }));
      const worst = off.sort((a, b) => b.percent - a.percent)[0];
      if (!worst) return undefined;
      return notAbove(worst.percent, rule.percent)
        ? { verdict: 'pass', reason: '' }
        : {
            verdict: 'fail',
            reason: `${label(worst.name)} is ${formatNumber(worst.percent, 3)} % from the mean; at most ${rule.percent} % (common practice).`,
          };
    }
    case 'equals': {
      const value = numberOf(rule.field, rule.unit);
      if (value === undefined) return undefined;
      return value === rule.value
        ? { verdict: 'pass', reason: '' }
        : { verdict: 'fail', reason: `${value} ${rule.unit}; it must be ${rule.value}.` };
    }
    case 'at most times': {
      const value = values[rule.field];
      const base = context.earlier[rule.of.operation]?.[rule.of.field];
      if (typeof value !== 'number') return undefined;
      if (typeof base !== 'number' || base <= 0) {
        return {
          verdict: 'cannot judge',
          reason: `${rule.of.operation} has no figure to compare ${label(rule.field).toLowerCase()} with.`,
        };
      }
      const factor = limit(rule.factor, context.limits);
      const [shown, bound] = formatAgainst(value / base, factor);
      return {
        verdict: notAbove(value / base, factor) ? 'pass' : 'fail',
        reason: `${label(rule.field)} is ${shown} times that of ${rule.of.operation}; at most ${bound} times (${quoteLimit(rule.factor, context.limits)}).`,
      };
    }
    case 'stated': {
      const value = values[rule.field];
      return value === 'pass' || value === 'attention' || value === 'fail'
        ? { verdict: value, reason: `Stated by ${context.person.name}.` }
        : { verdict: 'cannot judge', reason: 'No outcome was stated.' };
    }
    case 'second person': {
      const value = values[rule.field];
      if (typeof value !== 'string') return undefined;
      return value.trim().toLowerCase() === context.person.name.trim().toLowerCase()
        ? {
            verdict: 'fail',
            reason: `${label(rule.field)}: a second person is needed, not ${context.person.name} again.`,
          }
        : { verdict: 'pass', reason: '' };
    }
  }
}
