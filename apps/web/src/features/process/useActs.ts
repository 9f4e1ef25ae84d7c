import type { ProblemDetail } from '@norther/contracts';
import { useState } from 'react';
import { useSessionQuery } from '../../app/api/people.ts';
import { outbox, type NewWaiting, type Outcome } from '../../app/outbox/outbox.ts';

export interface Acts {
  act: (what: NewWaiting['what'], body: object, file?: { content: Blob; name: string }) => Promise<Outcome>;
  busy: boolean;
  problem: ProblemDetail | undefined;
}

/** What a person does at a step: kept on this device first, then sent; without network it waits. */
export function useActs(number: string, code: string): Acts {
  const { data: session } = useSessionQuery();
  const [busy, setBusy] = useState(0);
  const [problem, setProblem] = useState<ProblemDetail>();
  const act: Acts['act'] = async (what, body, file) => {
    setBusy((n) => n + 1);
    try {
      const came = await outbox.act({
        person: session?.person.id ?? '',
        number,
        code,
        what,
        body,
        ...(file ? { file: file.content, fileName: file.name } : {}),
      });
      setProblem(came.outcome === 'refused' ? came.problem : undefined);
      return came;
    } finally {
      setBusy((n) => n - 1);
    }
  };
  return { act, busy: busy > 0, problem };
}
