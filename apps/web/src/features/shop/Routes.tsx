import { leaveOutRefusal, MAY_BE_LEFT_OUT, operation, ROUTE_IDS, ROUTES, STAGES } from '@norther/core';
import type { ShopSettings } from '@norther/contracts';

type LeaveOut = ShopSettings['leaveOut'];

/** What each route holds, and which operations this shop leaves out; those that guard a motor or a person cannot be. */
export function Routes({ leaveOut, onChange }: { leaveOut: LeaveOut; onChange: (next: LeaveOut) => void }) {
  return (
    <div className="space-y-3">
      {ROUTE_IDS.map((id) => {
        const out = leaveOut[id] ?? [];
        const why = leaveOutRefusal(out);
        const codes = Object.keys(ROUTES[id].graph).map(operation);
        return (
          <details key={id} open={out.length > 0}>
            <summary className="cursor-pointer min-h-8 font-semibold">
              {ROUTES[id].title}: {codes.length - out.length} of {codes.length} operations
            </summary>
            {why ? (
              <p role="alert" className="text-small text-fail font-semibold">
                {why}
              </p>
            ) : null}
            <table className="w-full text-small">
              <tbody>
                {STAGES.map((stage) => {
                  const own = codes.filter((op) => op.stage === stage);
                  return own.length === 0 ? null : (
                    <tr key={stage} className="border-t border-line align-top">
                      <th scope="row" className="text-left font-semibold w-20 py-1">
                        {stage}
                      </th>
                      <td className="py-1">
                        <ul className="flex flex-wrap gap-x-4">
                          {own.map((op) => (
                            <li key={op.code}>
                              {MAY_BE_LEFT_OUT.includes(op.code) ? (
                                <label className="inline-flex items-center gap-1.5 min-h-8">
                                  <input
                                    type="checkbox"
                                    checked={!out.includes(op.code)}
                                    onChange={(e) =>
                                      onChange({
                                        ...leaveOut,
                                        [id]: e.target.checked ? out.filter((c) => c !== op.code) : [...out, op.code],
                                      })
                                    }
                                  />
                                  {op.title}
                                </label>
                              ) : (
                                <span className="inline-flex items-center min-h-8 text-soft">{op.title}</span>
                              )}
                            </li>
                          ))}
                        </ul>
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </details>
        );
      })}
    </div>
  );
}
