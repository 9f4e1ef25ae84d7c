import { useDeferredValue, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { jobApi, useSearchQuery } from '../../app/api/job.ts';
import { store } from '../../app/store.ts';
import { Combobox } from '../../ui/Combobox.tsx';
import { PhotographCode } from './PhotographCode.tsx';

/** One search from anywhere; a scanner types the code and presses Enter. */
export function SearchBox() {
  const [text, setText] = useState('');
  // on another page it is empty; a photograph that is being read stays, wherever one has gone meanwhile
  const { pathname } = useLocation();
  const [at, setAt] = useState(pathname);
  if (at !== pathname) {
    setAt(pathname);
    setText('');
  }
  const asked = useDeferredValue(text.trim());
  const navigate = useNavigate();
  const { data: hits, isFetching } = useSearchQuery(asked, { skip: asked === '' });
  const shown = (asked === '' ? [] : (hits ?? [])).filter((h) => h.number !== null);
  const go = (number: string | null): void => {
    if (!number) return;
    setText('');
    void navigate(`/jobs/${number}`);
  };
  /** @returns whether there is such a motor */
  const enter = async (typed = text.trim()): Promise<boolean> => {
    if (shown[0] && asked === typed && !isFetching) {
      go(shown[0].number);
      return true;
    }
    // a scanner is faster than the list: ask for exactly what was typed
    const found = await store
      .dispatch(jobApi.endpoints.search.initiate(typed, { forceRefetch: true }))
      .unwrap()
      .catch(() => []);
    const number = found[0]?.number ?? null;
    go(number);
    return number !== null;
  };
  return (
    <div className="relative flex items-center order-last basis-full pb-2 lg:order-none lg:basis-auto lg:pb-0 flex-1 min-w-40 lg:mx-2">
      <Combobox
        key={pathname}
        id="search"
        className="flex-1 min-w-0"
        label="Search jobs, customers, serial numbers; scan a label here"
        placeholder="Search or scan  ( / )"
        text={text}
        onText={setText}
        items={shown}
        keyOf={(h) => h.number ?? h.title}
        say={(h) => `${h.title}, ${h.detail}`}
        show={(h) => (
          <>
            <span className="font-semibold">{h.title}</span> <span className="text-small text-soft">{h.detail}</span>
          </>
        )}
        onChoose={(h) => go(h.number)}
        onEnter={() => void enter()}
        none={
          asked === '' || isFetching ? undefined : (
            <>Nothing found for &quot;{asked}&quot;. Try the job number, the customer or the serial number.</>
          )
        }
      />
      <PhotographCode
        onCode={async (code) => {
          // what is not one of ours stays in the field
          setText(code);
          return enter(code);
        }}
      />
    </div>
  );
}
