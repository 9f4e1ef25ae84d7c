import { operation, STAGES, type Stage, type StepState, type StepStatus } from '@norther/core';

export interface StationStep {
  code: string;
  state: StepState;
  status: StepStatus;
  why: string;
  overridden: boolean;
  changedAt: string | null;
}

export type StationLook = 'done' | 'running' | 'ready' | 'waiting' | 'failed' | 'sign' | 'held';

export interface Station {
  stage: Stage;
  rail: 'trunk' | 'stator' | 'rotor';
  column: number;
  steps: StationStep[];
  look: StationLook;
  done: number;
  signal: 'none' | 'closed' | 'overridden';
}

const TRUNK: readonly Stage[] = ['Intake', 'Inspect', 'Agree', 'Assemble', 'Final'];

function lookOf(steps: readonly StationStep[]): StationLook {
  const has = (...s: StepStatus[]) => steps.some((x) => s.includes(x.status));
  if (has('failed')) return 'failed';
  if (has('attention', 'undecided', 'recheck')) return 'sign';
  if (has('running')) return 'running';
  if (steps.every((x) => x.state === 'passed' || x.state === 'waived')) return 'done';
  if (has('ready')) return 'ready';
  return has('blocked') ? 'held' : 'waiting';
}

/** Steps of a job gathered into stations on trunk and rails. Before the rails part and after they join, all is trunk. */
export function stationsOf(steps: readonly StationStep[]): Station[] {
  const out: Station[] = [];
  STAGES.forEach((stage, column) => {
    for (const rail of ['trunk', 'stator', 'rotor'] as const) {
      const own = steps.filter((s) => {
        const op = operation(s.code);
        return (
          op.stage === stage &&
          (TRUNK.includes(stage) ? rail === 'trunk' : op.rail === rail || (op.rail === 'trunk' && rail === 'stator'))
        );
      });
      if (own.length === 0) continue;
      const first = own[0] as StationStep;
      const overridden = own.some((s) => s.overridden);
      out.push({
        stage,
        rail,
        column,
        steps: own,
        look: lookOf(own),
        done: own.filter((s) => s.state === 'passed' || s.state === 'waived').length,
        signal: overridden ? 'overridden' : first.status === 'blocked' ? 'closed' : 'none',
      });
    }
  });
  return out;
}

/** What needs a hand next, in words: failed and sign-offs first, then running, then ready. */
export function nextWork(steps: readonly StationStep[]): {
  text: string;
  kind: 'failed' | 'sign' | 'running' | 'ready' | 'done';
} {
  const title = (s: StationStep) => operation(s.code).title;
  const of = (...status: StepStatus[]) => steps.filter((s) => status.includes(s.status));
  const failed = of('failed');
  if (failed.length > 0)
    return { kind: 'failed', text: `${failed.map(title).join(', ')} failed: a foreman reopens what mends it` };
  const undecided = of('undecided');
  if (undecided.length > 0) return { kind: 'sign', text: `${undecided.map(title).join(', ')}: cannot be judged yet` };
  const sign = of('attention', 'recheck');
  if (sign.length > 0)
    return {
      kind: 'sign',
      text: `${sign.map(title).join(', ')}: ${sign.some((s) => s.status === 'attention') ? 'waits for a sign-off' : 'look at it again'}`,
    };
  const running = of('running');
  const ready = of('ready');
  if (running.length > 0)
    return {
      kind: 'running',
      text: `${running.map(title).join(', ')} running${ready.length > 0 ? `; next ${ready.map(title).join(', ')}` : ''}`,
    };
  if (ready.length > 0) return { kind: 'ready', text: ready.map(title).join(', ') };
  return { kind: 'done', text: 'all done' };
}

export const RANK = { failed: 0, sign: 1, ready: 2, running: 3, done: 4 } as const;
