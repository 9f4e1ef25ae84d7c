import { CalculationInputError } from '../calculation.ts';
import { limit, quoteLimit, type LimitId, type ShopLimits } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { findUnit, fromBase } from '../quantity/units.ts';
import type { FieldValue } from '../quantity/fields.ts';
import { combineVerdicts, notAbove, notBelow, type Judged, type Verdict } from '../verdict.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import type { WindingRecord } from '../winding/record.ts';
import { processBondedWire } from './bondedWire.ts';
import { judgeGauge, type Gauge } from './gauges.ts';
import type { AcceptRule } from './operation.ts';
import type { Operation } from './operations.ts';
import { processStrippedCopper } from './strippedCopper.ts';

export interface RecordContext {
  limits: ShopLimits;
  /** recorded values of earlier operations of this job */
  earlier: Readonly<Record<string, Readonly<Record<string, FieldValue>>>>;
  /** sign-in name and full name of the person recording */
  person: { name: string };
  /** what the shop measures with, and what day it is */
  gauges?: { kept: readonly Gauge[]; today: string };
  /** the winding as found, where there is a record of it */
  winding?: { record: WindingRecord; nameplate: Nameplate };
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
  const gauge = context.gauges && judgeGauge(values['instrument'], context.gauges.kept, context.gauges.today);
  if (gauge) parts.push(gauge);
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
  const applies = (when: { field: string; is: readonly string[] } | undefined): boolean =>
    when === undefined || when.is.includes(String(values[when.field] ?? ''));
  switch (rule.rule) {
    case 'named': {
      if (!applies(rule.when)) return undefined;
      const value = values[rule.field];
      return typeof value === 'string' && value.trim() !== ''
        ? { verdict: 'pass', reason: '' }
        : { verdict: 'attention', reason: rule.otherwise };
    }
    case 'near': {
      const [value, planned] = [values[rule.field], values[rule.of]];
      if (typeof value !== 'number' || typeof planned !== 'number' || planned <= 0) return undefined;
      const off = 100 * (value / planned - 1);
      const [shown] = formatAgainst(Math.abs(off), limit(rule.percent, context.limits));
      return notAbove(Math.abs(off), limit(rule.percent, context.limits))
        ? { verdict: 'pass', reason: '' }
        : {
            verdict: 'attention',
            reason: `${label(rule.field)} is ${shown} % ${off > 0 ? 'more' : 'less'} than ${label(rule.of).toLowerCase()}; within ${quoteLimit(rule.percent, context.limits)}.`,
          };
    }
    case 'bond': {
      const [coldOhm, coldC, nowOhm] = ['r0', 't0', 'r'].map((f) => values[f]);
      if (typeof coldOhm !== 'number' || typeof coldC !== 'number' || typeof nowOhm !== 'number')
        return { verdict: 'cannot judge', reason: 'Cold resistance, its temperature and the end are needed.' };
      return bonded(values, { coldOhm, coldC, nowOhm });
    }
    case 'yes': {
      const value = values[rule.field];
      if (value === undefined || !applies(rule.when)) return undefined;
      return value === true
        ? { verdict: 'pass', reason: '' }
        : { verdict: rule.verdict ?? 'fail', reason: rule.otherwise };
    }
    case 'at most':
    case 'at least': {
      if (rule.rule === 'at most' && !applies(rule.when)) return undefined;
      const value = numberOf(rule.field, rule.unit);
      if (value === undefined) return undefined;
      const bound = limit(rule.limit, context.limits);
      const inside = rule.rule === 'at most' ? notAbove(value, bound) : notBelow(value, bound);
      const [shown] = formatAgainst(value, bound);
      const unit = rule.rule === 'at most' && rule.per ? `${rule.unit}/${rule.per}` : rule.unit;
      return {
        verdict: inside ? 'pass' : (rule.verdict ?? 'fail'),
        reason: inside
          ? ''
          : `${label(rule.field)} ${shown} ${unit}; ${rule.rule} ${quoteLimit(rule.limit, context.limits)}.`,
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
      const most = limit(rule.percent, context.limits);
      return notAbove(worst.percent, most)
        ? { verdict: 'pass', reason: '' }
        : {
            verdict: 'fail',
            reason: `${label(worst.name)} is ${formatNumber(worst.percent, 3)} % from the mean; at most ${quoteLimit(rule.percent, context.limits)}.`,
          };
    }
    case 'one of': {
      const value = values[rule.field];
      if (value === undefined) return undefined;
      return rule.good.includes(String(value))
        ? { verdict: 'pass', reason: '' }
        : { verdict: 'attention', reason: rule.otherwise };
    }
    case 'equals': {
      const value = numberOf(rule.field, rule.unit);
      if (value === undefined) return undefined;
      return value === rule.value
        ? { verdict: 'pass', reason: '' }
        : { verdict: 'fail', reason: `${value} ${rule.unit}; it must be ${rule.value}.` };
    }
    case 'band': {
      const value = numberOf(rule.field, rule.unit);
      if (value === undefined) return undefined;
      return bandOf(value, rule, context.limits, `${label(rule.field)} %s ${rule.unit}`);
    }
    case 'at most by size': {
      const value = numberOf(rule.field, rule.unit);
      if (value === undefined) return undefined;
      const size = numberOf(rule.by, rule.byUnit);
      const [small, large] = [limit(rule.limit, context.limits), limit(rule.larger, context.limits)];
      if (size === undefined && !notAbove(value, Math.min(small, large)) && notAbove(value, Math.max(small, large)))
        return {
          verdict: 'cannot judge',
          reason: `${label(rule.field)} ${formatNumber(value, 3)} ${rule.unit}: the limit depends on ${label(rule.by).toLowerCase()}, which is missing.`,
        };
      const id = size !== undefined && !notAbove(size, limit(rule.from, context.limits)) ? rule.larger : rule.limit;
      const [shown] = formatAgainst(value, limit(id, context.limits));
      return notAbove(value, limit(id, context.limits))
        ? { verdict: 'pass', reason: '' }
        : {
            verdict: 'fail',
            reason: `${label(rule.field)} ${shown} ${rule.unit}; at most ${quoteLimit(id, context.limits)}.`,
          };
    }
    case 'at most share': {
      const [value, whole] = [values[rule.field], values[rule.of]];
      if (typeof value !== 'number') return undefined;
      if (typeof whole !== 'number' || whole <= 0)
        return {
          verdict: 'cannot judge',
          reason: `${label(rule.field)} is judged against ${label(rule.of).toLowerCase()}, which is missing.`,
        };
      const percent = (100 * value) / whole;
      const [shown] = formatAgainst(percent, limit(rule.percent, context.limits));
      return notAbove(percent, limit(rule.percent, context.limits))
        ? { verdict: 'pass', reason: '' }
        : {
            verdict: 'fail',
            reason: `${label(rule.field)} is ${shown} % of ${label(rule.of).toLowerCase()}; at most ${quoteLimit(rule.percent, context.limits)}.`,
          };
    }
    case 'rise': {
      const value = values[rule.field];
      if (typeof value !== 'number') return undefined;
      const earlier = context.earlier[rule.of] ?? {};
      const base = earlier[rule.field];
      if (typeof base !== 'number' || base <= 0)
        return {
          verdict: 'pass',
          reason: `${rule.of} has no figure to compare with: judged by the loss itself and the hot spot only.`,
        };
      const [was, is] = [earlier[rule.flux], values[rule.flux]];
      if (typeof was !== 'number' || typeof is !== 'number' || was <= 0 || is <= 0)
        return {
          verdict: 'cannot judge',
          reason: `${label(rule.flux)} is missing at ${typeof was === 'number' && was > 0 ? 'this test' : rule.of}: losses compare only at the same flux density.`,
        };
      const apart = 100 * Math.abs(is / was - 1);
      if (!notAbove(apart, limit(rule.fluxPercent, context.limits)))
        return {
          verdict: 'cannot judge',
          reason: `Flux densities ${formatNumber(was, 3)} and ${formatNumber(is, 3)} T are more than ${quoteLimit(rule.fluxPercent, context.limits)} apart: no verdict on the rise; repeat at the same flux density.`,
        };
      const rise = 100 * ((value * (was / is) ** 2) / base - 1);
      return bandOf(
        rise,
        rule,
        context.limits,
        `${label(rule.field)} rose by %s % on ${rule.of}${was === is ? '' : ', at the same flux density'}`,
      );
    }
    case 'copper': {
      const value = numberOf(rule.field, 'kg');
      // without a record there is nothing to hold it against: the release of the data waits for one
      if (value === undefined || !context.winding || value <= 0) return undefined;
      const judged = processStrippedCopper.compute({
        ...context.winding,
        strippedKg: value,
        cutOffKg: 0,
        state: 'burned clean',
        limits: context.limits,
      });
      return judged.verdict === 'cannot judge' ? undefined : { verdict: judged.verdict, reason: judged.reason };
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

/** A bond judged by its calculation; what it cannot take is said. */
function bonded(
  values: Readonly<Record<string, FieldValue>>,
  read: { coldOhm: number; coldC: number; nowOhm: number },
): Judged {
  const more = Object.entries({ lead: 'leadOhm', from: 'fromC', to: 'toC' }).flatMap(([field, name]) =>
    typeof values[field] === 'number' ? [[name, values[field]]] : [],
  );
  const material = values['material'] === 'aluminium' ? { material: 'aluminium' } : {};
  const input = processBondedWire.input.safeParse({ ...read, ...material, ...Object.fromEntries(more) });
  if (!input.success) return { verdict: 'cannot judge', reason: 'These readings cannot be those of one winding.' };
  try {
    const { verdict, reason } = processBondedWire.compute(input.data);
    return { verdict, reason };
  } catch (error) {
    if (!(error instanceof CalculationInputError)) throw error;
    return { verdict: 'cannot judge', reason: error.message };
  }
}

/** Pass, attention or fail by two limits; `%s` in the sentence is the value. */
function bandOf(
  value: number,
  rule: { pass: LimitId; attention: LimitId },
  limits: ShopLimits,
  sentence: string,
): Judged {
  const [fine, most] = [limit(rule.pass, limits), limit(rule.attention, limits)];
  if (notAbove(value, fine)) return { verdict: 'pass', reason: '' };
  const isFail = !notAbove(value, most);
  const [shown] = formatAgainst(value, isFail ? most : fine);
  return {
    verdict: isFail ? 'fail' : 'attention',
    reason: `${sentence.replace('%s', shown)}; at most ${quoteLimit(isFail ? rule.attention : rule.pass, limits)}.`,
  };
}
