import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { combineVerdicts, notAbove, type Judged } from '../verdict.ts';
import { runOf } from './operations.ts';
import { highestC, type Resin } from './cure.ts';

/** What the bake of one coat was judged to be. */
export interface CoatBake {
  /** CUR, CUR.2 … */
  code: string;
  resin: Pick<Resin, 'name' | 'ratedC' | 'ratedH' | 'maxC'>;
  /** of the slowest and of the warmest part of this bake, times the rated cure */
  degree?: number | undefined;
  largest?: number | undefined;
  hottestC?: number | undefined;
}

/** A coat with everything that it went through: its own bake and the later ones. */
export interface CoatLived {
  coat: number;
  ownDegree?: number;
  /** with the later bakes of the same rated cure, of the warmest part */
  livedDegree?: number;
  hottestC?: number;
  /** a later bake was of another resin: its degree does not add to this one's */
  otherResin: boolean;
  judged: Judged;
}

/**
 * A coat is cured by its own bake, and bears the later ones too: highest temperature and over-bake count over all of them
 * (docs/derivations.md 13, section 0; common practice).
 */
export function coatsLived(
  bakes: readonly CoatBake[],
  limits: { overBakeDegree: number; aboveRatedK: number },
): CoatLived[] {
  const last = new Map(bakes.map((b) => [runOf(b.code), b]));
  const runs = [...last.keys()].sort((a, b) => a - b);
  return runs.map((coat) => {
    const own = last.get(coat) as CoatBake;
    const from = runs.filter((r) => r >= coat).map((r) => last.get(r) as CoatBake);
    const like = from.filter((b) => b.resin.ratedC === own.resin.ratedC && b.resin.ratedH === own.resin.ratedH);
    const hot = from.flatMap((b) => (b.hottestC === undefined ? [] : [b.hottestC]));
    const degrees = like.flatMap((b) => (b.largest === undefined ? [] : [b.largest]));
    const hottestC = hot.length > 0 ? Math.max(...hot) : undefined;
    const livedDegree = degrees.length > 0 ? degrees.reduce((n, d) => n + d, 0) : undefined;
    const said: Judged[] = [];
    const maxC = highestC(own.resin, limits.aboveRatedK);
    if (hottestC !== undefined && from.length > 1 && !notAbove(hottestC, maxC)) {
      const [a, b] = formatAgainst(hottestC, maxC);
      said.push({
        verdict: 'attention',
        reason: `Coat ${coat} came to ${a} °C in a later bake, above its highest ${b} °C: an engineer decides.`,
      });
    }
    if (livedDegree !== undefined && from.length > 1 && !notAbove(livedDegree, limits.overBakeDegree))
      said.push({
        verdict: 'attention',
        reason: `Coat ${coat} has had ${formatNumber(livedDegree, 3)} times its rated cure with the later bakes, above ${formatNumber(limits.overBakeDegree)} times (common practice).`,
      });
    return {
      coat,
      otherResin: like.length < from.length,
      ...(own.degree === undefined ? {} : { ownDegree: own.degree }),
      ...(livedDegree === undefined ? {} : { livedDegree }),
      ...(hottestC === undefined ? {} : { hottestC }),
      judged:
        said.length === 0
          ? { verdict: 'pass', reason: '' }
          : { verdict: combineVerdicts(said.map((s) => s.verdict)), reason: said.map((s) => s.reason).join(' ') },
    };
  });
}
