import { useDeferredValue, useState } from 'react';
import { useNavigate } from 'react-router';
import { jobApi } from '../../app/api/job.ts';
import { useSearchQuery } from '../../app/api/job.ts';
import { store } from '../../app/store.ts';

/** One search from anywhere; a scanner types the code and presses Enter. */
export function SearchBox() {
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const [open, setOpen] = useState(false);
  const asked = useDeferredValue(text.trim());
  const navigate = useNavigate();
  const { data: hits, isFetching } = useSearchQuery(asked, { skip: asked === '' });
  const shown = asked === '' ? [] : (hits ?? []);
  const go = (number: string | null): void => {
    if (!number) return;
    setText('');
    setOpen(false);
    void navigate(`/jobs/${number}`);
  };
  const enter = async (): Promise<void> => {
    if (shown[at] && asked === text.trim() && !isFetching) {
      go(shown[at].number);
      return;
    }
    // a scanner is faster than the list: ask for exactly what was typed
    const found = await store
      .dispatch(jobApi.endpoints.search.initiate(text.trim(), { forceRefetch: true }))
      .unwrap()
      .catch(() => []);
    if (found[0]) go(found[0].number);
    else setOpen(true);
  };
  return (
    <div className="relative flex-1 min-w-40 mx-2">
      <input
        id="search"
        type="search"
        role="combobox"
        aria-expanded={open && shown.length > 0}
        aria-controls="search-hits"
        aria-label="Search jobs, customers, serial numbers; scan a label here"
        placeholder="Search or scan  ( / )"
        autoComplete="off"
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
          setOpen(true);
        }}
        onBlur={() => setTimeout(() => setOpen(false), 150)}
        onFocus={() => setOpen(true)}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown') setAt(Math.min(at + 1, shown.length - 1));
          else if (e.key === 'ArrowUp') setAt(Math.max(at - 1, 0));
          else if (e.key === 'Enter') void enter();
          else if (e.key === 'Escape') setOpen(false);
        }}
        className="w-full min-h-9 my-1.5 border border-edge rounded-sm px-3 bg-page"
      />
      {open && asked !== '' ? (
        <ul
          id="search-hits"
          role="listbox"
          className="absolute z-40 left-0 right-0 top-full bg-sheet border border-edge max-h-96 overflow-auto"
        >
          {shown.map((h, i) => (
            <li
              key={h.number}
              role="option"
              aria-selected={i === at}
              onMouseDown={() => go(h.number)}
              className={`px-3 py-2 cursor-pointer ${i === at ? 'bg-accent-tint' : ''}`}
            >
              <span className="font-semibold">{h.title}</span> <span className="text-small text-soft">{h.detail}</span>
            </li>
          ))}
          {shown.length === 0 && !isFetching ? (
            <li className="px-3 py-2 text-soft">
              Nothing found for "{asked}". Try the job number, the customer or the serial number.
            </li>
          ) : null}
        </ul>
      ) : null}
    </div>
  );
}
