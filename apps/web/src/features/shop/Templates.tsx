import { CERTIFICATE_SECTIONS, SECTION_TITLES, type CertificateSection, type PaperTemplates } from '@norther/contracts';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';

/** What reports hold behind their first page and what stands under the shop's name; otherwise for single customers. */
export function Templates({
  papers,
  onPapers,
}: {
  papers: PaperTemplates;
  onPapers: (papers: PaperTemplates) => void;
}) {
  const put = (at: number, part: Partial<PaperTemplates['customers'][number]>) =>
    onPapers({ ...papers, customers: papers.customers.map((c, i) => (i === at ? { ...c, ...part } : c)) });
  return (
    <div className="space-y-4">
      <One
        name="Reports"
        letterhead={papers.letterhead}
        leaveOut={papers.leaveOut}
        onChange={(part) => onPapers({ ...papers, ...part })}
      />
      {papers.customers.map((c, i) => (
        <div key={i} className="border-l-4 border-line pl-3 space-y-2">
          <div className="flex gap-2 items-end">
            <PlainField
              label={`Customer ${i + 1}`}
              value={c.customer}
              onChange={(e) => put(i, { customer: e.target.value })}
            />
            <Button
              look="quiet"
              onClick={() => onPapers({ ...papers, customers: papers.customers.filter((_, k) => k !== i) })}
            >
              Take out
            </Button>
          </div>
          <One
            name={`Customer ${i + 1}`}
            letterhead={c.letterhead}
            leaveOut={c.leaveOut}
            onChange={(part) => put(i, part)}
          />
        </div>
      ))}
      <Button
        onClick={() =>
          onPapers({ ...papers, customers: [...papers.customers, { customer: '', letterhead: '', leaveOut: [] }] })
        }
      >
        Reports of one customer
      </Button>
    </div>
  );
}

function One({
  name,
  letterhead,
  leaveOut,
  onChange,
}: {
  name: string;
  letterhead: string;
  leaveOut: readonly CertificateSection[];
  onChange: (part: { letterhead?: string; leaveOut?: CertificateSection[] }) => void;
}) {
  return (
    <div className="space-y-2">
      <PlainField
        label={`${name}: letterhead`}
        hint="blank: the address of the shop"
        value={letterhead}
        maxLength={300}
        onChange={(e) => onChange({ letterhead: e.target.value })}
      />
      <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
        <legend className="text-small text-soft">{name}: behind the first page</legend>
        {CERTIFICATE_SECTIONS.map((s) => (
          <label key={s} className="inline-flex items-center gap-1 min-h-9">
            <input
              type="checkbox"
              checked={!leaveOut.includes(s)}
              onChange={(e) =>
                onChange({ leaveOut: e.target.checked ? leaveOut.filter((x) => x !== s) : [...leaveOut, s] })
              }
            />
            {SECTION_TITLES[s]}
          </label>
        ))}
      </fieldset>
    </div>
  );
}
