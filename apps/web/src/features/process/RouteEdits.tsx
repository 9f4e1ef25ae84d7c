import {
  coatsOf,
  MOST_RUNS,
  operation,
  OPERATIONS,
  removalOf,
  removalSteps,
  REMOVALS,
  routeEditRefusal,
  type Impregnation,
  type Removal,
  type RouteEdit,
  type WhatCame,
} from '@norther/core';
import type { JobDetail } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useDraftText } from '../../app/draft.ts';
import { KeptRoutes } from './KeptRoutes.tsx';
import { useEditRouteMutation, useRouteTemplatesQuery, useToRewindMutation } from '../../app/api/process.ts';
import { useMay } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { Segmented } from '../../ui/Segmented.tsx';

const KINDS = [
  ['add', 'Put one in'],
  ['take out', 'Take one out'],
  ['wait', 'Let one wait for another too'],
  ['coats', 'Coats of resin'],
  ['removal', 'How the winding comes out'],
  ['take', 'Take a kept route'],
] as const;
type Kind = (typeof KINDS)[number][0];

/** For a foreman: this job's route, changed without breaking a hold; and an overhaul that becomes a rewind. */
export function RouteEdits({ job }: { job: JobDetail }) {
  const may = useMay('foreman') && !job.closedAt;
  const failed = job.route === 'overhaul' && job.detailSteps.some((s) => s.code === 'OTT' && s.state === 'failed');
  const [open, setOpen] = useState(false);
  if (!may) return null;
  return (
    <>
      {failed ? <ToRewind job={job} /> : null}
      <details className="mt-4" onToggle={(e) => setOpen(e.currentTarget.open)}>
        <summary className="cursor-pointer font-semibold py-1.5">Change the route of this job</summary>
        {open ? (
          <div className="grid grid-cols-1 lg:grid-cols-[1fr_20rem] gap-6">
            <Edit job={job} />
            <KeptRoutes job={job} />
          </div>
        ) : null}
      </details>
    </>
  );
}

function ToRewind({ job }: { job: JobDetail }) {
  const [turn, { error, isLoading }] = useToRewindMutation();
  const reason = useDraftText(`reason:rewind:${job.number}`);
  return (
    <section aria-label="Becomes a rewind" className="mt-4 border-l-4 border-attention pl-3 space-y-2 max-w-xl">
      <p className="font-semibold">
        The tests after drying failed: the overhaul becomes a rewind. What passed and both have stays; the scope is
        agreed anew.
      </p>
      <PlainField label="Why it becomes a rewind" value={reason.text} onChange={(e) => reason.set(e.target.value)} />
      <Button
        look="main"
        bench
        disabled={isLoading || reason.text.trim().length < 3}
        onClick={() =>
          void turn({ number: job.number, reason: reason.text }).then((r) => (r.data ? reason.recorded() : undefined))
        }
      >
        Make it a rewind
      </Button>
      <ProblemNote error={error} />
    </section>
  );
}

/** An edit as it is sent: its lists are its own. */
function sent(edit: Exclude<RouteEdit, { do: 'take' }>) {
  switch (edit.do) {
    case 'add':
      return { ...edit, after: [...edit.after], before: [...edit.before] };
    case 'wait':
      return { ...edit, after: [...edit.after] };
    default:
      return edit;
  }
}

function Edit({ job }: { job: JobDetail }) {
  const [kind, setKind] = useState<Kind>('add');
  const [code, setCode] = useState('');
  const [after, setAfter] = useState('');
  const [before, setBefore] = useState('');
  const reason = useDraftText(`reason:route:${job.number}`);
  const [send, { error, isLoading }] = useEditRouteMutation();
  const { data } = useRouteTemplatesQuery();
  const templates = (data ?? []).filter(
    (t) => t.route === job.route && t.came === job.came && t.impregnation === job.impregnation,
  );
  const graph = useMemo(() => Object.fromEntries(job.detailSteps.map((s) => [s.code, s.after])), [job.detailSteps]);
  const states = useMemo(() => Object.fromEntries(job.detailSteps.map((s) => [s.code, s.state])), [job.detailSteps]);
  const named = (codes: readonly string[]) => [
    { value: '', label: 'choose …' },
    ...codes.map((c) => ({ value: c, label: `${operation(c).title} (${operation(c).stage})` })),
  ];
  const inRoute = job.detailSteps.map((s) => s.code);
  const choices =
    kind === 'add'
      ? [...OPERATIONS.keys()].filter((c) => !inRoute.includes(c))
      : job.detailSteps
          .filter((s) => s.state === 'open' && (kind === 'wait' || operation(s.code).mayBeLeftOut))
          .map((s) => s.code);
  const kept = templates.find((t) => t.id === code);
  const edit: RouteEdit | undefined =
    code === ''
      ? undefined
      : kind === 'coats'
        ? { do: 'coats', coats: Number(code) }
        : kind === 'removal'
          ? { do: 'removal', way: code as Removal }
          : kind === 'take'
            ? kept && { do: 'take', graph: kept.graph }
            : kind === 'take out'
              ? { do: 'take out', code }
              : after === ''
                ? undefined
                : kind === 'add'
                  ? { do: 'add', code, after: [after], before: before === '' ? [] : [before] }
                  : { do: 'wait', code, after: [...new Set([...(graph[code] ?? []), after])] };
  const refusal =
    edit &&
    routeEditRefusal(graph, edit, {
      states,
      came: job.came as WhatCame,
      impregnation: job.impregnation as Impregnation,
    });
  return (
    <form
      aria-label="Change the route"
      className="space-y-3 max-w-2xl"
      onSubmit={(e) => {
        e.preventDefault();
        if (!edit) return;
        void send({
          number: job.number,
          edit: edit.do === 'take' ? { do: 'take' as const, template: code } : sent(edit),
          reason: reason.text,
        }).then((r) => {
          if (!r.data) return;
          setCode('');
          setAfter('');
          setBefore('');
          reason.recorded();
        });
      }}
    >
      <Segmented
        label="What to change"
        options={KINDS}
        value={kind}
        onChange={(k) => {
          setKind(k);
          setCode('');
        }}
      />
      {kind === 'coats' ? (
        <PlainSelect
          label="Coats, each dipped, drained and baked"
          value={code}
          onChange={(e) => setCode(e.target.value)}
          options={[
            { value: '', label: `as now: ${coatsOf(graph)}` },
            ...Array.from({ length: MOST_RUNS }, (_, i) => String(i + 1))
              .filter((n) => Number(n) !== coatsOf(graph))
              .map((value) => ({ value, label: value })),
          ]}
        />
      ) : kind === 'take' ? (
        <PlainSelect
          label="Kept route"
          value={code}
          onChange={(e) => setCode(e.target.value)}
          options={[
            { value: '', label: templates.length === 0 ? 'none is kept for such a motor yet' : 'choose …' },
            ...templates.map((t) => ({ value: t.id, label: `${t.name} (from ${t.fromJob})` })),
          ]}
        />
      ) : kind === 'removal' ? (
        <PlainSelect
          label="The winding comes out by"
          value={code}
          onChange={(e) => setCode(e.target.value)}
          options={[
            { value: '', label: `as now: ${removalOf(graph) ?? 'pulled as it is'}` },
            ...REMOVALS.filter((way) => way !== removalOf(graph)).map((way) => ({
              value: way,
              label: `${way}: ${removalSteps(way)
                .map((c) => operation(c).title.toLowerCase())
                .join(', ')}`,
            })),
          ]}
        />
      ) : (
        <PlainSelect
          label="Operation"
          value={code}
          onChange={(e) => setCode(e.target.value)}
          options={named(choices)}
        />
      )}
      {kind === 'add' || kind === 'wait' ? (
        <div className="grid grid-cols-1 sm:grid-cols-2 gap-3">
          <PlainSelect
            label={kind === 'add' ? 'after' : 'waits for'}
            value={after}
            onChange={(e) => setAfter(e.target.value)}
            options={named(inRoute.filter((c) => c !== code))}
          />
          {kind === 'add' ? (
            <PlainSelect
              label="and before (or nothing waits for it)"
              value={before}
              onChange={(e) => setBefore(e.target.value)}
              options={named(inRoute.filter((c) => c !== code))}
            />
          ) : null}
        </div>
      ) : null}
      {refusal ? (
        <p role="status" className="text-fail font-semibold">
          {refusal}
        </p>
      ) : null}
      <PlainField label="Why the route changes" value={reason.text} onChange={(e) => reason.set(e.target.value)} />
      <Button
        look="main"
        type="submit"
        disabled={isLoading || !edit || refusal !== undefined || reason.text.trim().length < 3}
      >
        Change the route
      </Button>
      <ProblemNote error={error} />
    </form>
  );
}
