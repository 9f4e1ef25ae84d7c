import {
  carryOver,
  METRIC_DEFAULTS,
  typedOfRecord,
  readWindingFile,
  sentenceOfIssue,
  type ReadingDefaults,
  type WindingFile,
  type WindingPart,
} from '@norther/core';
import { useState } from 'react';
import { ZodError } from 'zod';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { WorkProgress } from '../../ui/WorkProgress.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { useSimilar } from '../archive/useSimilar.ts';
import { SimilarList } from '../archive/SimilarList.tsx';

/** Windings of the archive most like what is typed so far; one can be taken over as the starting point. */
export function TakeOver({
  number,
  part,
  typed,
  here,
  onTake,
}: {
  number: string;
  part: WindingPart;
  typed: Record<string, string>;
  here: ReadingDefaults;
  onTake: (typed: Record<string, string>) => void;
}) {
  const [open, setOpen] = useState(false);
  const [wrong, setWrong] = useState('');
  return (
    <>
      <Button look="plain" onClick={() => setOpen(true)}>
        Similar windings …
      </Button>
      <Dialog open={open} onOpenChange={setOpen} title="Similar windings, most alike first" wide>
        <label className="block text-small mb-3">
          or from a record file (JSON){' '}
          <input
            type="file"
            accept="application/json,.json"
            onChange={(e) => {
              const file = e.target.files?.[0];
              if (!file) return;
              void file.text().then((text) => {
                const read = readFile(text);
                if ('why' in read) return setWrong(read.why);
                setWrong('');
                onTake({ ...typedOfRecord(read.file.record), startedFrom: `${read.file.title} (file)`.slice(0, 200) });
                setOpen(false);
              });
            }}
          />
        </label>
        {wrong ? <ProblemNote>{wrong}</ProblemNote> : null}
        {open ? (
          <Choice
            number={number}
            part={part}
            typed={typed}
            onTake={(entry) => {
              onTake({
                ...carryOver(entry.typed, { ...METRIC_DEFAULTS, ...entry.readWith } as ReadingDefaults, here),
                startedFrom: `${entry.title} (${entry.from})`.slice(0, 200),
              });
              setOpen(false);
            }}
          />
        ) : null}
      </Dialog>
    </>
  );
}

function readFile(text: string): { file: WindingFile } | { why: string } {
  try {
    return { file: readWindingFile(JSON.parse(text)) };
  } catch (error) {
    const issue = error instanceof ZodError ? error.issues[0] : undefined;
    return {
      why: issue
        ? `This is not a winding record of Norther: ${issue.path.join('.')}: ${sentenceOfIssue(issue)}`
        : 'This file is not JSON; take the one that "record (JSON)" gives.',
    };
  }
}

function Choice({
  number,
  part,
  typed,
  onTake,
}: {
  number: string;
  part: WindingPart;
  typed: Record<string, string>;
  onTake: (entry: { title: string; from: string; typed: Record<string, string>; readWith: ReadingDefaults }) => void;
}) {
  const { entries, work, error } = useSimilar({ number, part, typed });
  if (error) return <ProblemNote error={error} />;
  if (!entries) return work ? <WorkProgress what="Comparing" work={work} /> : <Quiet>Comparing …</Quiet>;
  if (entries.length === 0) return <Quiet>The archive is empty.</Quiet>;
  return (
    <SimilarList
      entries={entries.slice(0, 15)}
      action={(entry) => (
        <Button look="plain" onClick={() => onTake(entry)}>
          Take over
        </Button>
      )}
    />
  );
}
